import { rmSync } from "node:fs";
import { Server } from "./server";

/** Loads the demo data once; every test starts from a copy of them. */
export default async function seed() {
  const server = new Server();
  await server.start({ seeded: false });
  await server.stop();
  process.env.ACORN_SEED = server.folder;
  return () => rmSync(server.folder, { recursive: true, force: true });
}
