import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { test as base, expect, type Page } from "@playwright/test";

/** A server of its own on a temporary folder, started from the real binary. */
export class Server {
  readonly folder = mkdtempSync(join(tmpdir(), "acorn-"));
  address = "";
  /** Where gauges are heard. */
  gauges = "";
  private child: ChildProcess | undefined;

  /** Starts on a free port with a copy of the demo data, or again on the port and the data it had. */
  async start({ seeded = true, more = [] as string[] } = {}) {
    const binary = process.env.ACORN_DIAL;
    if (!binary) throw new Error("ACORN_DIAL names no binary; run: cargo test -p acorn-dial --test browser");
    const seed = process.env.ACORN_SEED;
    if (seeded && !this.address && seed) cpSync(seed, this.folder, { recursive: true });
    const listen = this.address ? new URL(this.address).host : "127.0.0.1:0";
    const child = spawn(
      binary,
      ["serve", "--data", this.folder, "--listen", listen, "--gauges", this.gauges || "127.0.0.1:0", "--demo", ...more],
      {
        stdio: ["ignore", "pipe", "inherit"],
      },
    );
    this.child = child;
    for await (const line of createInterface({ input: child.stdout })) {
      if (line.startsWith("Acorn Dial is at ")) this.address = line.replace("Acorn Dial is at ", "");
      if (line.startsWith("Gauges are heard at ")) {
        this.gauges = line.replace("Gauges are heard at ", "");
        break;
      }
    }
    expect(this.address).toMatch(/^http:/);
  }

  /** Kills it as a power cut would. */
  async kill() {
    await this.end("SIGKILL");
  }

  /** Stops it as a person would. */
  async stop() {
    await this.end("SIGTERM");
  }

  private async end(signal: NodeJS.Signals) {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }

  async remove() {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** A test with a server, and a page that must not complain nor leave its origin. */
export const test = base.extend<{ server: Server; page: Page }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
  server: async ({}, use) => {
    const server = new Server();
    await server.start();
    await use(server);
    await server.remove();
  },
  page: async ({ page, server }, use) => {
    const complaints: string[] = [];
    page.on("pageerror", (error) => complaints.push(error.message));
    page.on("console", (message) => {
      if (/Content Security Policy|Warning:|Error:/.test(message.text())) complaints.push(message.text());
    });
    page.on("request", (request) => {
      const url = request.url();
      if (!url.startsWith(server.address) && !/^(data|blob):/.test(url)) complaints.push(`left its origin: ${url}`);
    });
    await use(page);
    expect(complaints).toEqual([]);
  },
});

export { expect };

/** Opens a dataset of the demo data by name. */
export async function openDataset(page: Page, server: Server, name: string) {
  await page.goto(`${server.address}/data`);
  await page.getByRole("link", { name, exact: true }).click();
  await expect(page.getByRole("grid")).toBeVisible();
}

/** The address of a study of the demo data: by its dataset and method, the oldest unless said otherwise. */
export async function studyAddress(server: Server, dataset: string, method: string, place = 0): Promise<string> {
  const read = async (path: string) => (await fetch(server.address + path)).json();
  const { id } = (await read("/api/datasets")).find((one: { name: string }) => one.name === dataset);
  type Study = { id: number; dataset_id: number; spec: { method: string } };
  const all: Study[] = await read("/api/studies");
  const own = all.filter((study) => study.dataset_id === id && study.spec.method === method);
  const study = own.sort((a, b) => a.id - b.id)[place];
  if (!study) throw new Error(`The demo has no ${method} of ${dataset}.`);
  return `${server.address}/study/${study.id}`;
}

export const verdict = (page: Page) => page.getByTestId("verdict");

/** The dial of a dataset on the Wall. */
export const dialOf = (page: Page, dataset: string | RegExp) =>
  page.getByRole("region", { name: dataset }).getByRole("listitem").getByRole("link");
