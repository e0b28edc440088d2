import { t } from "../format/language";
export type Theme = "bright" | "dusk";
export type Light = { theme: Theme; toggleTheme: () => void };
/** What the frame gives to a page with its own bar. */
export type Framed = { light: Light; find: () => void };

/** Switch between light and dark. */
export function LightSwitch({ theme, toggleTheme }: Light) {
  return (
    <button
      type="button"
      onClick={toggleTheme}
      className="min-h-11 rounded-sm px-2 text-sm underline-offset-4 hover:underline"
    >
      <svg viewBox="0 0 12 12" className="inline h-4 w-4 lg:hidden" aria-hidden="true">
        <circle cx="6" cy="6" r="5" className="fill-none stroke-ink" />
        <path d={theme === "dusk" ? "M6 1a5 5 0 0 1 0 10z" : "M6 1a5 5 0 0 0 0 10z"} className="fill-ink" />
      </svg>
      <span className="max-lg:sr-only">{theme === "dusk" ? t("common-light") : t("common-dark")}</span>
    </button>
  );
}
