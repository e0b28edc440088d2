import { t } from "../format/language";
export type Theme = "bright" | "dusk";
export type Light = { theme: Theme; toggleTheme: () => void };

/** Between the bright sheet and the dusk one. */
export function LightSwitch({ theme, toggleTheme }: Light) {
  return (
    <button
      type="button"
      onClick={toggleTheme}
      className="min-h-11 rounded-sm px-2 text-sm underline-offset-4 hover:underline"
    >
      {theme === "dusk" ? t("Bright") : t("Dusk")}
    </button>
  );
}
