import { useMemo } from "react";

import { clockOf } from "../shared/format/days";
import { useSession } from "./queries";

/** Format moments in the academy's time zone. */
export function useClock() {
  const { time_zone } = useSession();
  return useMemo(() => clockOf(time_zone), [time_zone]);
}
