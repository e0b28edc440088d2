import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { queries } from "../../api/queries";
import { type Film, pictureOf } from "./film";

const MAX_CACHED = 16; // pictures that stay unpacked

/** One decoded picture of a film; the previous one stays until the next is ready. */
export function useFrame(film: Film | undefined, frame: number) {
  const pictures = useQuery({ ...queries.pictures(film?.id ?? 0), enabled: film !== undefined });
  const unpacked = useRef(new Map<number, ImageBitmap>());
  const [shown, show] = useState<{ id: number; picture: ImageBitmap } | null>(null);
  const bytes = pictures.data;
  useEffect(() => {
    const cached = unpacked.current;
    return () => {
      for (const picture of cached.values()) picture.close();
      cached.clear();
    };
  }, []);
  useEffect(() => {
    if (!film || !bytes) return;
    let wanted = true;
    const cached = unpacked.current;
    const key = film.id * 10_000 + frame;
    const known = cached.get(key);
    if (known) {
      show({ id: film.id, picture: known });
      return;
    }
    void createImageBitmap(pictureOf(film, bytes, frame)).then((picture) => {
      cached.set(key, picture);
      if (wanted) show({ id: film.id, picture });
      for (const old of [...cached.keys()].slice(0, -MAX_CACHED)) {
        cached.get(old)?.close();
        cached.delete(old);
      }
    });
    return () => {
      wanted = false;
    };
  }, [bytes, film, frame]);
  return { picture: film && shown?.id === film.id ? shown.picture : null, error: pictures.error };
}
