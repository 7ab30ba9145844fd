import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type Browser, chromium, type Page } from "playwright-core";

// Run as it stands by the tests, and compiled into .setup by the scripts.
export const root = fileURLToPath(
  new URL(import.meta.url.includes("/.setup/") ? "../../../" : "../", import.meta.url),
);

/** Chromium without a screen, with a software WebGL 2, and silent on the network. */
const FLAGS = [
  "--no-sandbox",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--use-angle=swiftshader",
  "--enable-unsafe-swiftshader",
  "--ignore-gpu-blocklist",
];

export interface Bench {
  readonly base: string;
  readonly browser: Browser;
  newPage(options?: { theme?: "light" | "dark" }): Promise<Page>;
  /** Ends the server, as a crash would, and starts it again on the same file and port. */
  stopServer(): Promise<void>;
  startServer(): Promise<void>;
  close(): Promise<void>;
}

async function freePort(): Promise<number> {
  const { createServer } = await import("node:net");
  return new Promise((done) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const address = probe.address();
      const port = typeof address === "object" && address ? address.port : 0;
      probe.close(() => done(port));
    });
  });
}

/** The built application on a database of its own, and a browser in front of it. */
export async function openBench(options: { demo?: boolean } = {}): Promise<Bench> {
  const folder = mkdtempSync(join(tmpdir(), "hillcrest-e2e-"));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server: ChildProcess | undefined;
  const startServer = async () => {
    server = spawn("node", [join(root, "packages/server/dist/main.js")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: {
        ...process.env,
        HILLCREST_PORT: String(port),
        HILLCREST_DATABASE: join(folder, "parts.sqlite"),
        HILLCREST_DEMO: options.demo === false ? "none" : "yes",
      },
    });
    await new Promise<void>((done, fail) => {
      server!.once("exit", (code) => fail(new Error(`The server ended with ${code}.`)));
      server!.stdout!.on("data", (text: Buffer) => text.includes(base) && done());
    });
    server.removeAllListeners("exit");
  };
  const stopServer = async () => {
    const ended = new Promise((done) => server?.once("exit", done));
    server?.kill("SIGTERM");
    await ended;
  };
  await startServer();
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: FLAGS,
  });
  return {
    base,
    browser,
    newPage: async ({ theme = "light" } = {}) => {
      const context = await browser.newContext({
        viewport: { width: 1280, height: 800 },
        colorScheme: theme,
        acceptDownloads: true,
      });
      const page = await context.newPage();
      page.setDefaultTimeout(Number(process.env.PATIENCE ?? 20_000));
      return page;
    },
    startServer,
    stopServer,
    close: async () => {
      await browser.close();
      await stopServer();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Leaves the shop without stock cards, so that new parts say their own values: galvanised 1.5, K 0.42. */
export async function withoutCards(base: string): Promise<void> {
  const entries = (await (await fetch(`${base}/api/stock`)).json()) as {
    section: string;
    item: { id: string };
  }[];
  for (const { section, item } of entries)
    if (section === "cards") await fetch(`${base}/api/stock/cards/${item.id}`, { method: "DELETE" });
}

/** Opens a part from the Shelf and waits until both views show it. */
export async function openPart(page: Page, base: string, name: string): Promise<void> {
  await page.goto(base);
  await page.click(`[data-part="${name}"] a`);
  await drawn(page);
}

/** Waits until the folded view has drawn a shape. */
export async function drawn(page: Page): Promise<void> {
  await page.waitForFunction(() => performance.getEntriesByName("hillcrest:folded-drawn").length > 0);
  await page.waitForSelector('[data-view="blank"] [data-edge], [data-view="folded"] canvas', {
    state: "attached",
  });
}

/** Clicks the middle of an edge on the blank, by its stable name. */
export async function clickEdge(page: Page, edge: string, modifiers: "Shift"[] = []): Promise<void> {
  const box = await page.locator(`[data-view="blank"] [data-edge="${edge}"] path`).first().boundingBox();
  if (!box) throw new Error(`Edge ${edge} is not on the blank.`);
  for (const key of modifiers) await page.keyboard.down(key);
  // A third along, where no tag of a bend stands.
  await page.mouse.click(
    box.x + box.width * 0.33,
    box.y + box.height * (box.height > box.width ? 0.33 : 0.5),
  );
  for (const key of modifiers) await page.keyboard.up(key);
}

/** Does what makes the browser save a file, and reads it. */
export async function savedFile(
  page: Page,
  act: () => Promise<void>,
): Promise<{ name: string; text: string; bytes: Buffer }> {
  const [download] = await Promise.all([page.waitForEvent("download"), act()]);
  const bytes = readFileSync(await download.path());
  return { name: download.suggestedFilename(), text: bytes.toString("utf8"), bytes };
}

export const isSaved = (page: Page) => page.waitForSelector('[data-saving="saved"]');
