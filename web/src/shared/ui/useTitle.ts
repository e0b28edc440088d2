import { useEffect } from "react";

/** Set the page title, the most specific first; nothing if a part of the page sets it. */
export function useTitle(...parts: (string | undefined)[]) {
  const title = parts.every(Boolean) && [...parts, "Instavis"].join(" · ");
  useEffect(() => {
    if (title) document.title = title;
  }, [title]);
}
