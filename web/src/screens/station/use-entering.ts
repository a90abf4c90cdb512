import { useCallback, useEffect, useRef, useState } from "react";
import type { Entry } from "../../api/floor";
import { forget, keep, refused, type Sent, send, type Waiting, waiting } from "./queue";

/** How soon what could not be sent is sent again. */
const AGAIN = 2000;

/** Entries on their way: kept on the device first, sent in order, sent again until the service has them. */
export function useEntering(station: number, onSent: (sent: Sent[]) => void) {
  const [pending, setPending] = useState(0);
  const [aside, setAside] = useState<Waiting[]>([]);
  const [reached, setReached] = useState(true);
  const [broken, setBroken] = useState(false);
  const busy = useRef<Promise<unknown>>(Promise.resolve());
  const told = useRef(onSent);
  told.current = onSent;

  const flush = useCallback(() => {
    const work = async () => {
      try {
        for (;;) {
          const sent = await send(station);
          setReached(true);
          if (sent.length === 0) break;
          told.current(sent);
        }
      } catch {
        setReached(false);
      }
      setPending((await waiting(station)).length);
      const refusals = await refused(station);
      setAside((now) => (now.length === refusals.length ? now : refusals));
    };
    busy.current = busy.current.then(work).catch(() => setBroken(true));
    return busy.current;
  }, [station]);

  const enter = useCallback(
    async (entry: Entry) => {
      await keep(station, entry);
      setPending((now) => now + 1);
      flush();
    },
    [station, flush],
  );

  useEffect(() => {
    flush();
    const timer = setInterval(flush, AGAIN);
    window.addEventListener("online", flush);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", flush);
    };
  }, [flush]);
  const drop = useCallback(
    async (number: number) => {
      await forget(number);
      setAside(await refused(station));
    },
    [station],
  );
  return { enter, pending, reached, broken, aside, drop };
}
