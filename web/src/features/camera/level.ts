import { useEffect, useState } from "react";

export const FLAT = 1.5; // ° that a camera may be turned and still stand level
const MINIMUM = 4; // m/s² along the screen: of a phone that lies on its back nothing is told
const SLOW = 0.15; // of a new value that counts at once: a hand's shaking is none of a tripod's

type Pull = { x: number | null; y: number | null } | null;

/**
 * By how much the ground is turned in the picture [°], + clockwise, from what a phone feels along its screen; undefined
 * where it feels nothing. However the phone is held and whichever sign its maker gives: the nearest quarter turn is flat.
 */
export function turned(pull: Pull): number | undefined {
  if (!pull || pull.x === null || pull.y === null || Math.hypot(pull.x, pull.y) < MINIMUM) return;
  const angle = (Math.atan2(pull.x, pull.y) * 180) / Math.PI;
  return angle - 90 * Math.round(angle / 90);
}

/** How the ground lies in the picture of this phone's camera, in whole degrees; undefined on a device that cannot tell. */
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
