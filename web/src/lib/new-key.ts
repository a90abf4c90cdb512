/** A key that nothing else has, on any device; also where the page is not served securely. */
export const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, "0")).join("");
