import { useEffect } from "react";

/** Lets this page open without the service from now on, where the browser can: over HTTPS, or on the machine of the service. */
export function useOffline() {
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    let observer: PerformanceObserver | undefined;
    let ended = false;
    const begin = async () => {
      await navigator.serviceWorker.register("/station-worker.js", { scope: "/station/" });
      const { active } = await navigator.serviceWorker.ready;
      if (ended) return;
      active?.postMessage({ page: location.href, loaded: [] });
      // What went past the worker, because it was asked for before its time, is told to it as it comes.
      observer = new PerformanceObserver((list) => {
        const past = (list.getEntries() as PerformanceResourceTiming[]).filter(({ workerStart }) => workerStart === 0);
        if (past.length > 0) active?.postMessage({ loaded: past.map(({ name }) => name) });
      });
      observer.observe({ type: "resource", buffered: true });
    };
    // Without it the page works as long as it stays open.
    begin().catch(() => undefined);
    return () => {
      ended = true;
      observer?.disconnect();
    };
  }, []);
}
