/** The selected balls: one, a range, a block, or none (then all count). */
export type Selection = { ids: ReadonlySet<number>; anchor: number | null };

export const NOTHING: Selection = { ids: new Set(), anchor: null };

export function choose(selection: Selection, id: number, order: number[], range: boolean, add: boolean): Selection {
  if (range && selection.anchor !== null) {
    const [a, b] = [order.indexOf(selection.anchor), order.indexOf(id)];
    if (a >= 0 && b >= 0) {
      return { ids: new Set(order.slice(Math.min(a, b), Math.max(a, b) + 1)), anchor: selection.anchor };
    }
  }
  if (add) {
    const ids = new Set(selection.ids);
    if (!ids.delete(id)) ids.add(id);
    return { ids, anchor: id };
  }
  const only = selection.ids.size === 1 && selection.ids.has(id);
  return only ? NOTHING : { ids: new Set([id]), anchor: id };
}

export const only = (id: number): Selection => ({ ids: new Set([id]), anchor: id });

/** Return balls that wait for the coach's mark; `asked` is the one already asked for. */
export function waitingBalls<B extends { id: number; covered: boolean }>(balls: B[], asked?: B): B[] {
  return balls.filter((ball) => ball.covered && ball.id !== asked?.id);
}

/** Return the next waiting ball after one that was marked; nothing after the last. */
export function nextWaiting(balls: { id: number; covered: boolean }[], marked: { id: number }): Selection {
  const next = balls.slice(balls.findIndex((ball) => ball.id === marked.id) + 1).find((ball) => ball.covered);
  return next ? only(next.id) : NOTHING;
}

/** Return the ball `steps` from the anchor, within the tape; the last one without a selection. */
export function step(selection: Selection, order: number[], steps: number): Selection {
  if (order.length === 0) return NOTHING;
  const from = selection.anchor === null ? order.length - (steps < 0 ? 0 : 1) : order.indexOf(selection.anchor);
  const id = order[Math.max(0, Math.min(order.length - 1, from + steps))];
  return id === undefined ? NOTHING : { ids: new Set([id]), anchor: id };
}
