/** The last seconds of a camera in memory: two recorders overlap by half a period, and the older one is cut. */

export const TURN = 10_000; // ms that one recorder runs before it begins anew
export const AFTER = 1_200; // ms that are still filmed after a ball was result
const KINDS = ["video/webm;codecs=vp8,opus", "video/webm;codecs=vp8", "video/webm", "video/mp4"];
const BITS = 4_000_000; // a second

export type Film = { blob: Blob; about: number };

type Recorder = Pick<MediaRecorder, "start" | "stop" | "state" | "ondataavailable">;
type Running = { recorder: Recorder; since: number; taken: boolean };
type Made = (stream: MediaStream) => Recorder;

export function recorderOf(stream: MediaStream): MediaRecorder {
  const mimeType = KINDS.find((kind) => MediaRecorder.isTypeSupported(kind));
  return new MediaRecorder(stream, { ...(mimeType && { mimeType }), videoBitsPerSecond: BITS });
}

export class Ring {
  #running: Running[] = [];
  #timer: ReturnType<typeof setInterval> | undefined;

  constructor(
    readonly stream: MediaStream,
    readonly make: Made = recorderOf,
    readonly now: () => number = () => performance.now(),
  ) {}

  get filming(): boolean {
    return this.#timer !== undefined;
  }

  start(): void {
    if (this.filming) return;
    this.#begin();
    this.#timer = setInterval(() => this.#turn(), TURN / 2);
  }

  /** Stop and forget everything. */
  stop(): void {
    clearInterval(this.#timer);
    this.#timer = undefined;
    for (const one of this.#running) this.#drop(one);
    this.#running = [];
  }

  /** Return the film around a ball at a moment of this clock; undefined if nothing was filmed. */
  async cut(ball: number): Promise<Film | undefined> {
    const oldest = this.#running.find((one) => !one.taken && one.since < ball);
    if (!oldest) return undefined;
    oldest.taken = true;
    await new Promise((done) => setTimeout(done, Math.max(0, ball + AFTER - this.now())));
    const blob = await ended(oldest.recorder);
    this.#running = this.#running.filter((one) => one !== oldest);
    if (this.filming) this.#begin();
    return blob && { blob, about: Math.max(0, (ball - oldest.since) / 1000) };
  }

  #begin(): void {
    const recorder = this.make(this.stream);
    recorder.start();
    this.#running.push({ recorder, since: this.now(), taken: false });
  }

  #turn(): void {
    const free = this.#running.filter((one) => !one.taken);
    const oldest = free[0];
    if (free.length > 1 && oldest) {
      this.#drop(oldest);
      this.#running = this.#running.filter((one) => one !== oldest);
    }
    this.#begin();
  }

  #drop({ recorder }: Running): void {
    recorder.ondataavailable = null;
    if (recorder.state !== "inactive") recorder.stop();
  }
}

function ended(recorder: Recorder): Promise<Blob | undefined> {
  return new Promise((done) => {
    if (recorder.state === "inactive") return done(undefined);
    recorder.ondataavailable = (event) => done(event.data);
    recorder.stop();
  });
}
