/**
 * Films to be sent: stored in the browser until the server has them, over lost connections and reloads, each sent
 * once.
 */
import { createStore, del, entries, set, type UseStore } from "idb-keyval";
import { Problems, upload } from "../../api/client";

export type Waiting = { key: string; lesson: number; ball: number; about: number; blob: Blob; at: number };
export type Store = {
  all: () => Promise<Waiting[]>;
  put: (film: Waiting) => Promise<void>;
  drop: (key: string) => Promise<void>;
};
export type Stand = { waiting: number; sent: number; problem: string };
export type Send = (film: Waiting) => Promise<void>;

export const FIRST_WAIT = 1_000;
export const LONGEST_WAIT = 30_000;
const ASK_AGAIN = [0, 401, 408, 429];

/** How a camera authenticates. */
export function bearer(token: string): Record<string, string> {
  return { Authorization: `Bearer ${token}` };
}

export function browserStore(): Store {
  const store: UseStore = createStore("instavis-camera", "films");
  return {
    all: async () => (await entries<string, Waiting>(store)).map(([, film]) => film).sort((a, b) => a.at - b.at),
    put: (film) => set(film.key, film, store),
    drop: (key) => del(key, store),
  };
}

export function sender(token: string): Send {
  return async ({ blob, key, lesson, ball, about }) => {
    const kind = blob.type.split(";")[0] || "video/webm";
    const file = new File([blob], `ball-${ball}.${kind.split("/")[1]}`, { type: kind });
    const result = { key, lesson: `${lesson}`, ball: `${ball}`, about: about.toFixed(2) };
    await upload("/api/v1/filming/films", file, result, bearer(token));
  };
}

/** Send waiting films, oldest first; permanently refused ones are dropped with their reason. */
export class Outbox {
  #busy = false;
  #pause = FIRST_WAIT;
  #again: ReturnType<typeof setTimeout> | undefined;
  #ended = false;
  #sent = 0;

  constructor(
    readonly store: Store,
    readonly send: Send,
    readonly result: (stand: Stand) => void,
  ) {}

  async add(film: Waiting): Promise<void> {
    await this.store.put(film);
    await this.flush();
  }

  async flush(): Promise<void> {
    if (this.#busy || this.#ended) return;
    this.#busy = true;
    clearTimeout(this.#again);
    try {
      for (let left = await this.store.all(); left[0] && !this.#ended; left = await this.store.all()) {
        const film = left[0];
        this.result({ waiting: left.length, sent: this.#sent, problem: "" });
        const refused = await this.#one(film);
        if (refused === undefined) return;
        await this.store.drop(film.key);
        if (!refused) this.#sent += 1;
        this.result({ waiting: left.length - 1, sent: this.#sent, problem: refused });
      }
    } finally {
      this.#busy = false;
    }
  }

  end(): void {
    this.#ended = true;
    clearTimeout(this.#again);
  }

  /** Empty if accepted, the reason if refused, undefined to retry. */
  async #one(film: Waiting): Promise<string | undefined> {
    try {
      await this.send(film);
      this.#pause = FIRST_WAIT;
      return "";
    } catch (error) {
      const known = error instanceof Problems ? error : undefined;
      if (known && !ASK_AGAIN.includes(known.status) && known.status < 500) return known.message;
      this.#again = setTimeout(() => void this.flush(), this.#pause);
      this.#pause = Math.min(2 * this.#pause, LONGEST_WAIT);
      return undefined;
    }
  }
}
