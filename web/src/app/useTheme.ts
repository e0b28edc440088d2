import { useEffect, useState } from "react";

import type { Theme } from "../shared/ui/LightSwitch";

const PLACE = "instavis.theme";

/** Light or dark, stored on this device. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(() => (localStorage.getItem(PLACE) === "dusk" ? "dusk" : "bright"));
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem(PLACE, theme);
  }, [theme]);
  return [theme, () => setTheme(theme === "dusk" ? "bright" : "dusk")];
}
