import { useMemo } from "react";

import { clockOf } from "../shared/format/days";
import { useSession } from "./queries";

/** Moments as the clock on the academy's wall shows them, wherever this device is. */
export function useClock() {
  const { time_zone } = useSession();
  return useMemo(() => clockOf(time_zone), [time_zone]);
}
