import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Entry, StoredEntry } from "../../api/floor";

/** An entry that waits on the device until the service has it, or that the service refused and somebody has to look at. */
export type Waiting = { station: number; number: number; entry: Entry; refused?: string };

const NAME = "acorn-dial-station";
const STORE = "entries";

function opened(): Promise<IDBDatabase> {
  return new Promise((resolve, reject) => {
    const asked = indexedDB.open(NAME, 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(STORE, { keyPath: "number", autoIncrement: true });
    asked.onsuccess = () => resolve(asked.result);
    asked.onerror = () => reject(asked.error);
  });
}

async function within<T>(mode: IDBTransactionMode, work: (store: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const database = await opened();
  try {
    return await new Promise<T>((resolve, reject) => {
      const transaction = database.transaction(STORE, mode, { durability: "strict" });
      const asked = work(transaction.objectStore(STORE));
      // Kept when the transaction is, not when the request is.
      transaction.oncomplete = () => resolve(asked.result);
      transaction.onabort = () => reject(transaction.error);
      transaction.onerror = () => reject(transaction.error);
    });
  } finally {
    database.close();
  }
}

export const keep = (station: number, entry: Entry) => within("readwrite", (store) => store.add({ station, entry }));

const kept = async (station: number): Promise<Waiting[]> => {
  const all: Waiting[] = await within("readonly", (store) => store.getAll());
  return all.filter((one) => one.station === station);
};

export const waiting = async (station: number) => (await kept(station)).filter(({ refused }) => refused === undefined);

/** What the service refused: it stays here until somebody has read it. */
export const refused = async (station: number) => (await kept(station)).filter(({ refused }) => refused !== undefined);

export const forget = (number: number) => within("readwrite", (store) => store.delete(number));

export type Sent = {
  waiting: Waiting;
  stored?: StoredEntry;
  problem?: Schema["HttpProblem"];
  happened?: Schema["Happened"];
};

/** At most this many go at once. */
const AT_ONCE = 200;

/**
 * Sends what waits, in its order. What the service has is forgotten here, and what it refuses is put aside; what it did not answer
 * waits on, under the same key, so that it is stored once.
 */
export async function send(station: number): Promise<Sent[]> {
  const all = (await waiting(station)).slice(0, AT_ONCE);
  if (all.length === 0) return [];
  const entries = all.map(({ entry }) => entry);
  const path = { id: station };
  const answers = await unwrapResponse(
    api.POST("/api/floor/stations/{id}/entries", { params: { path }, body: { entries } }),
  );
  const sent = all.map((one, at): Sent => {
    const { entry, problem, happened } = answers[at] ?? {};
    return {
      waiting: one,
      ...(entry && { stored: entry }),
      ...(problem && { problem }),
      ...(happened && { happened }),
    };
  });
  // What the service could not do just now it may do in a moment; what comes behind it waits with it, so that the order stays.
  const failing = sent.findIndex(({ stored, problem }) => !stored && (!problem || problem.status >= 500));
  const done = failing < 0 ? sent : sent.slice(0, failing);
  for (const { waiting, problem } of done) {
    if (problem) await within("readwrite", (store) => store.put({ ...waiting, refused: problem.detail }));
    else await forget(waiting.number);
  }
  if (done.length === 0) throw new Error(sent[0]?.problem?.detail ?? "the service did not answer");
  return done;
}
