import { useCallback, useEffect, useState } from "react";

/** A value that a gauge sent for a column. */
export type Reading = { column: string; value: number };

/** The readings of the gauge of a station, one at a time until it is taken. */
export function useReadings(station: number) {
  const [waiting, setWaiting] = useState<Reading[]>([]);
  const [heard, setHeard] = useState(false);
  useEffect(() => {
    const events = new EventSource(`/api/floor/stations/${station}/readings`);
    events.addEventListener("reading", (message) => {
      setHeard(true);
      setWaiting((now) => [...now, JSON.parse(message.data)]);
    });
    return () => events.close();
  }, [station]);
  const take = useCallback(() => setWaiting((now) => now.slice(1)), []);
  return { reading: waiting[0] ?? null, heard, take };
}
