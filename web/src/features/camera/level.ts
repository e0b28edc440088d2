import { useEffect, useState } from "react";

export const FLAT = 1.5; // ° that a camera may be turned and still stand level
const MINIMUM = 4; // m/s² along the screen: of a phone that lies on its back nothing is result
const SLOW = 0.15; // of a new value that counts at once: a hand's shaking is none of a tripod's

type Pull = { x: number | null; y: number | null } | null;

/**
 * Return how far the ground is tilted in the picture [°], + clockwise, from the phone's sensors; undefined without
 * them. Works in any orientation and for either sign convention: the nearest quarter turn is level.
 */
export function turned(pull: Pull): number | undefined {
  if (!pull || pull.x === null || pull.y === null || Math.hypot(pull.x, pull.y) < MINIMUM) return;
  const angle = (Math.atan2(pull.x, pull.y) * 180) / Math.PI;
  return angle - 90 * Math.round(angle / 90);
}

/** Return the tilt of this phone's picture in whole degrees; undefined without sensors. */
export function useLevel(): number | undefined {
  const [level, setLevel] = useState<number>();
  useEffect(() => {
    let slow: number | undefined;
    const feel = (event: DeviceMotionEvent) => {
      const now = turned(event.accelerationIncludingGravity);
      slow = now === undefined || slow === undefined ? now : slow + SLOW * (now - slow);
      setLevel(slow === undefined ? undefined : Math.abs(slow) <= FLAT ? 0 : Math.round(slow));
    };
    // Some makers ask first, and only after a touch.
    const allow = () => void asking()?.().catch(() => undefined);
    window.addEventListener("devicemotion", feel);
    window.addEventListener("pointerdown", allow, { once: true });
    return () => {
      window.removeEventListener("devicemotion", feel);
      window.removeEventListener("pointerdown", allow);
    };
  }, []);
  return level;
}

function asking(): (() => Promise<string>) | undefined {
  const kind = window.DeviceMotionEvent as { requestPermission?: () => Promise<string> } | undefined;
  return kind?.requestPermission?.bind(kind);
}
