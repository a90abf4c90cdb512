import { useEffect } from "react";

/** Lets this page open without the service from now on, where the browser can: over HTTPS, or on the machine of the service. */
export function useOffline() {
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    const begin = async () => {
      await navigator.serviceWorker.register("/station-worker.js", { scope: "/station/" });
      const { active } = await navigator.serviceWorker.ready;
      // What was loaded before it was there, and before its time.
      const loaded = performance.getEntriesByType("resource").map(({ name }) => name);
      active?.postMessage({ page: location.href, loaded });
    };
    // Without it the page works as long as it stays open.
    begin().catch(() => undefined);
  }, []);
}
