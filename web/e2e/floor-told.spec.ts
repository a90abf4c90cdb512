import { type ChildProcess, spawn } from "node:child_process";
import { createInterface, type Interface } from "node:readline";
import AxeBuilder from "@axe-core/playwright";
import { test as base, expect, Server } from "./server";

type Line = { by?: string; web?: string; mail?: string; to?: string[]; lines?: string[]; message?: Message };
type Message = { subject: string; alerts: { words: string; link: string }[] };

/** Somebody who is told and is not there, with what came so far. */
class Receiver {
  readonly heard: Line[] = [];
  private constructor(
    private readonly child: ChildProcess,
    readonly at: { web: string; mail: string },
  ) {}

  static async start(): Promise<Receiver> {
    const any = "127.0.0.1:0";
    const child = spawn(process.env.ACORN_DIAL ?? "", ["receiver", "--web", any, "--mail", any, "--refuse", "1"], {
      stdio: ["ignore", "pipe", "inherit"],
    });
    const lines: Interface = createInterface({ input: child.stdout });
    const first = await new Promise<string>((resolve) => lines.once("line", resolve));
    const receiver = new Receiver(child, JSON.parse(first));
    lines.on("line", (line) => receiver.heard.push(JSON.parse(line)));
    return receiver;
  }

  end() {
    this.child.kill("SIGKILL");
  }
}

/** A server that tells, and somebody who is told. */
const test = base.extend<{ receiver: Receiver; server: Server }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
  receiver: async ({}, use) => {
    const receiver = await Receiver.start();
    await use(receiver);
    receiver.end();
  },
  server: async ({ receiver }, use) => {
    const server = new Server();
    const mail = ["--mail", receiver.at.mail, "--mail-secrecy", "none", "--mail-from", "dial@fennel-hollow.test"];
    await server.start({ more: [...mail, "--tell-after", "2", "--tell-again", "600"] });
    await use(server);
    await server.remove();
  },
});

test("trouble at a station is told by web hook and by mail, and taken on at the desk", async ({
  page,
  server,
  receiver,
}) => {
  const [{ plan }] = await (await fetch(`${server.address}/api/floor`)).json();
  await page.goto(`${server.address}/floor/${plan.id}`);
  await expect(page.getByRole("region", { name: "Alerts" })).toHaveCount(0);
  await page.getByRole("button", { name: "Change it" }).click();
  const told = page.getByLabel("e-mail addresses and web hooks, a line each");
  await told.fill("the setter");
  await page.getByRole("button", { name: "Follow this from now on" }).click();
  await expect(page.getByRole("alert")).toContainText("“the setter” is neither an e-mail address nor a web address");
  await told.fill(`mara@fennel-hollow.test\n${receiver.at.web}/press-2`);
  await page.getByRole("button", { name: "Follow this from now on" }).click();
  const alerts = page.getByRole("region", { name: "Alerts" });
  await expect(alerts).toContainText("Nothing to tell.");

  await page.getByRole("link", { name: "Press 2", exact: true }).click();
  await page.getByRole("button", { name: "early" }).click();
  for (let piece = 1; piece <= 5; piece++) {
    await page.getByRole("textbox", { name: `Measure piece ${piece}.` }).fill(piece === 2 ? "2.47" : "2.4");
    await page.keyboard.press("Enter");
  }
  // Left for later it is told.
  await page.getByRole("main", { name: "What happened" }).getByRole("button", { name: "Later" }).click();
  await expect.poll(() => receiver.heard.map(({ by }) => by).sort(), { timeout: 30_000 }).toEqual(["mail", "web hook"]);
  const hook = receiver.heard.find(({ by }) => by === "web hook")?.message;
  const words = "An entry beyond specification at Press 2 has no cause: lens thickness 2.470 mm, above USL 2.460 mm.";
  expect(hook?.alerts.map((alert) => alert.words)).toContain(words);
  expect(hook?.alerts[0]?.link).toBe(`${server.address}/floor/${plan.id}`);
  const mail = receiver.heard.find(({ by }) => by === "mail");
  expect(mail?.to).toEqual(["mara@fennel-hollow.test"]);
  // Long lines are folded on their way.
  expect(mail?.lines?.join("").replaceAll("=", "")).toContain("above USL 2.460 mm");

  await page.goto(server.address);
  await page.getByRole("link", { name: /alerts? (is|are) not taken on/ }).click();
  await page.goto(`${server.address}/floor/${plan.id}`);
  const alert = alerts.getByRole("listitem").filter({ hasText: words });
  await expect(alert).toContainText("mara@fennel-hollow.test was told at");
  await expect(alert.getByRole("button", { name: "I take it on" })).toBeDisabled();
  expect((await new AxeBuilder({ page }).analyze()).violations.filter(({ impact }) => impact === "serious")).toEqual(
    [],
  );
  await alerts.getByLabel("your name").fill("Jonas");
  await alert.getByRole("button", { name: "I take it on" }).click();
  await expect(alert).toContainText("Jonas took it on at");
  // With its cause it is over.
  const waiting = page.getByRole("region", { name: "Waiting for a cause" });
  await waiting.getByLabel("cause").first().fill("worn punch");
  await waiting.getByRole("button", { name: "Keep it" }).first().click();
  await expect(alert).toHaveCount(0);
});

test("every so many pieces one is due, and missed ones are shown by shift", async ({ page, server }) => {
  const [{ plan }] = await (await fetch(`${server.address}/api/floor`)).json();
  await page.goto(`${server.address}/floor/${plan.id}`);
  await page.getByRole("button", { name: "Change it" }).click();
  await page.getByLabel("an entry is due").selectOption("by pieces made");
  await page.getByLabel("pieces from one to the next").fill("20");
  await page.getByLabel("late after pieces").fill("4");
  const shifts = page.getByRole("region", { name: "How often" });
  for (let row = 0; row < 2; row++) await shifts.getByRole("button", { name: "Remove" }).last().click();
  await shifts.getByLabel("shift", { exact: true }).fill("day and night");
  await page.getByRole("button", { name: "Follow this from now on" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("every 20 pieces");
  const stations = page.getByRole("region", { name: "Stations" });
  await expect(stations).toContainText("due in 20 pieces");
  await page.getByRole("link", { name: "Press 2", exact: true }).click();
  for (const [more, words] of [
    ["20 pieces more", "due now"],
    ["1 piece more", "due since 1 piece"],
    ["20 pieces more", "due since 1 piece"],
    ["1 piece more", "due since 2 pieces"],
    ["1 piece more", "due since 3 pieces"],
    ["1 piece more", "due since 4 pieces"],
    ["1 piece more", "late by 5 pieces"],
  ] as const) {
    await page.getByRole("button", { name: more, exact: true }).click();
    await expect(page.getByRole("banner")).toContainText(words);
  }
  await expect(page.getByText("45 pieces made")).toBeVisible();
  await page.goto(`${server.address}/floor/${plan.id}`);
  await expect(stations).toContainText("1 of 1 due entry missed");
  await expect(stations).toContainText("day and night");
  // A station is renamed in place; closed, nobody waits for it.
  await stations.getByText("its gauge").click();
  await stations.getByLabel("name", { exact: true }).fill("Press 2, left");
  await stations.getByLabel("name", { exact: true }).press("Enter");
  await expect(stations.getByRole("link", { name: "Press 2, left" })).toBeVisible();
  await stations.getByRole("button", { name: "Close it" }).click();
  await expect(stations.getByText("closed", { exact: true })).toBeVisible();
  await expect(stations).not.toContainText("late by");
});

test("the Wall is grouped by line, hung by hand, and has the shares of what is counted", async ({ page, server }) => {
  await page.goto(server.address);
  await expect(page.getByText(/^share/).first()).toBeVisible();
  await page.getByRole("button", { name: "arrange" }).click();
  const places = page.getByRole("list", { name: "Places on the Wall" });
  const names = () =>
    places.getByRole("listitem").evaluateAll((all) => all.map((one) => one.querySelector("span span")?.textContent));
  await expect(places.getByRole("listitem").first()).toBeVisible();
  const before = await names();
  await places
    .getByRole("button", { name: / further down$/ })
    .first()
    .click();
  await expect.poll(names).toEqual([before[1], before[0], ...before.slice(2)]);
  const line = places.getByRole("textbox", { name: /^line of/ });
  await line.nth(0).fill("line 3");
  await line.nth(1).fill("line 3");
  await line.nth(1).press("Enter");
  await expect
    .poll(async () => {
      const wall: { place: { line: string } | null }[] = await (await fetch(`${server.address}/api/wall`)).json();
      return wall.filter(({ place }) => place?.line === "line 3").length;
    })
    .toBe(2);
  await page.getByRole("button", { name: "arrange" }).click();
  await page.getByLabel("grouped by").selectOption("line");
  await page.getByLabel("order").selectOption("by hand");
  const group = page.getByRole("region", { name: "line 3" });
  await expect(group.getByRole("listitem")).toHaveCount(2);
  // This browser remembers it.
  await page.reload();
  await expect(group.getByRole("listitem")).toHaveCount(2);
  await page.getByLabel("Find on the Wall").fill("line 3");
  await expect(page.getByRole("region", { name: "no line yet" })).toHaveCount(0);
});
