/** The day it is, by the calendar of the machine's time zone. */
import { SYSTEM_ZONE } from '@rellin/core/query';

export const today = () => SYSTEM_ZONE.dayOf(Date.now());

export function startOfToday(): Date {
  const { year, month, day } = today();
  return new Date(SYSTEM_ZONE.startOf(year, month, day));
}
