import { useEffect } from "react";

/** What the browser calls the page, the most special first; nothing where a part of the page says it itself. */
export function useTitle(...parts: (string | undefined)[]) {
  const title = parts.every(Boolean) && [...parts, "Instavis"].join(" · ");
  useEffect(() => {
    if (title) document.title = title;
  }, [title]);
}
