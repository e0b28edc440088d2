/** Run at once, then at most once per `pause` ms; the last call is never lost. */
export function calm(run: () => void, pause: number, later: typeof setTimeout = setTimeout): () => void {
  let resting = false;
  let again = false;
  function rest() {
    resting = true;
    later(() => {
      resting = false;
      if (!again) return;
      again = false;
      run();
      rest();
    }, pause);
  }
  return () => {
    if (resting) {
      again = true;
      return;
    }
    run();
    rest();
  };
}
