import { useEffect, useState } from "react";

import { speak } from "./language";

/** Load the reader's language; nothing is shown before. */
export function useLanguage(language: string | undefined): boolean {
  const [spoken, setSpoken] = useState<string>();
  useEffect(() => {
    if (language) void speak(language).then(() => setSpoken(language));
  }, [language]);
  return language !== undefined && spoken === language;
}
