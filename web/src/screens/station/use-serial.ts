import { useCallback, useEffect, useRef, useState } from "react";
import { api, unwrapResponse } from "../../api/client";

type Port = {
  open: (options: { baudRate: number }) => Promise<void>;
  close: () => Promise<void>;
  readable: ReadableStream<Uint8Array>;
};
type Serial = { requestPort: () => Promise<Port> };

const serialOf = () => (navigator as Navigator & { serial?: Serial }).serial;

/** Whether this browser can speak to a gauge on a serial port. */
export const hasSerial = () => serialOf() !== undefined;

/** A gauge on a serial port of this device. Its lines go through the service, so that they are read as those of any other gauge. */
export function useSerial(stationKey: string) {
  const [state, setState] = useState<"none" | "open" | "lost">("none");
  const port = useRef<Port | null>(null);
  const connect = useCallback(async () => {
    try {
      const chosen = await serialOf()?.requestPort();
      if (!chosen) return;
      await chosen.open({ baudRate: 9600 });
      port.current = chosen;
      setState("open");
      for await (const line of linesOf(chosen.readable)) {
        const body = { station: stationKey, readings: [{ line }] };
        await unwrapResponse(api.POST("/api/readings", { body })).catch(() => undefined);
      }
      setState("lost");
    } catch (thrown) {
      // Nothing was chosen: all stays as it was.
      if ((thrown as Error).name !== "NotFoundError") setState("lost");
    }
  }, [stationKey]);
  useEffect(() => () => void port.current?.close().catch(() => undefined), []);
  return { state, connect };
}

/** The lines of a stream of bytes, however it is cut; empty ones are none. */
export async function* linesOf(stream: ReadableStream<Uint8Array>) {
  const reader = stream.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    if (done) break;
    const parts = (rest + decoder.decode(value, { stream: true })).split(/\r\n|\r|\n/);
    rest = parts.pop() ?? "";
    for (const part of parts) if (part.trim() !== "") yield part;
    // A gauge that never ends its line is none.
    if (rest.length > 1000) rest = "";
  }
}
