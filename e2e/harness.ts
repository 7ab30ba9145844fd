import { type ChildProcess, spawn } from "node:child_process";
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type Browser, chromium, type Page } from "playwright-core";

// Run as it stands by the tests, and compiled into .setup by the scripts.
export const root = fileURLToPath(
  new URL(import.meta.url.includes("/.setup/") ? "../../../" : "../", import.meta.url),
);

/** Chromium without a screen, with a software WebGL 2, and silent on the network. */
export const FLAGS: readonly string[] = [
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

/**
 * Only WebGL goes through the software graphics card: a page that is painted and put together on it too takes twice the
 * time. What a canvas shows is then fetched by the page's own thread, so whoever measures that leaves it.
 */
const PAINTED = ["--disable-gpu-rasterization", "--disable-gpu-compositing"];

export interface Bench {
  readonly base: string;
  readonly browser: Browser;
  /** `late`: what is asked of workers gets to them so much later, ms, as if all they do took longer. */
  newPage(options?: { theme?: "light" | "dark"; sharp?: boolean; late?: number }): Promise<Page>;
  /** Ends the server, as a crash would where it is killed, and starts it again on the same file and port. */
  stopServer(by?: "SIGTERM" | "SIGKILL"): Promise<void>;
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

function workLate(ms: number): void {
  const Prompt = window.Worker;
  window.Worker = class extends Prompt {
    override postMessage(...message: unknown[]) {
      setTimeout(() => Reflect.apply(Prompt.prototype.postMessage, this, message), ms);
    }
  };
}

/** The built application on a database file. */
export interface Served {
  readonly base: string;
  start(): Promise<void>;
  stop(by?: "SIGTERM" | "SIGKILL"): Promise<void>;
}

export async function openServer(database: string, { demo }: { demo: boolean }): Promise<Served> {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server: ChildProcess | undefined;
  const start = async () => {
    server = spawn("node", [join(root, "packages/server/dist/main.js")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: {
        ...process.env,
        HILLCREST_PORT: String(port),
        HILLCREST_DATABASE: database,
        HILLCREST_DEMO: demo ? "yes" : "none",
      },
    });
    await new Promise<void>((done, fail) => {
      server!.once("exit", (code) => fail(new Error(`The server ended with ${code}.`)));
      server!.stdout!.on("data", (text: Buffer) => text.includes(base) && done());
    });
    server.removeAllListeners("exit");
  };
  const stop = async (by: "SIGTERM" | "SIGKILL" = "SIGTERM") => {
    const ended = new Promise((done) => server?.once("exit", done));
    server?.kill(by);
    await ended;
  };
  await start();
  return { base, start, stop };
}

/** The built application on a database of its own, and a browser in front of it. */
export async function openBench(options: { demo?: boolean; measured?: boolean } = {}): Promise<Bench> {
  const folder = mkdtempSync(join(tmpdir(), "hillcrest-e2e-"));
  const database = join(folder, "parts.sqlite");
  const { demo = true } = options;
  // The tests begin with the demo as `demo-database.ts` has left it.
  const ready = process.env.HILLCREST_TEST_DATABASE;
  if (demo && ready) copyFileSync(ready, database);
  const { base, start: startServer, stop: stopServer } = await openServer(database, { demo });
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: options.measured ? [...FLAGS] : [...FLAGS, ...PAINTED],
  });
  return {
    base,
    browser,
    newPage: async ({ theme = "light", sharp = false, late = Number(process.env.LATE ?? 0) } = {}) => {
      const context = await browser.newContext({
        viewport: { width: 1280, height: 800 },
        // A quarter of the pixels: the tests look at what is there, and software draws it four times as fast.
        deviceScaleFactor: sharp ? 1 : 0.5,
        colorScheme: theme,
        acceptDownloads: true,
      });
      const page = await context.newPage();
      if (late > 0) await page.addInitScript(workLate, late);
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

/** Waits until the views show the document as it is now, and the blank has come to rest, as a person's eye does. */
export async function settled(page: Page): Promise<void> {
  await page.waitForSelector('[data-views][aria-busy="false"]');
  await page.evaluate(async () => {
    const look = () =>
      [...document.querySelectorAll('[data-view="blank"] [data-edge] path')]
        .map((e) => JSON.stringify(e.getBoundingClientRect()))
        .join();
    for (let before = "", tries = 0; tries < 20; tries++) {
      const now = look();
      if (now === before) return;
      before = now;
      await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    }
  });
}

/** So many pictures of the page pass: what it draws of what was just done is drawn. */
export const frames = (page: Page, many = 2): Promise<void> =>
  page.evaluate(
    (n) =>
      new Promise<void>((done) => {
        const next = (left: number) => (left > 0 ? requestAnimationFrame(() => next(left - 1)) : done());
        next(n);
      }),
    many,
  );

/** What is read of the page, once it is the same at three looks, some pictures apart. */
export async function atRest<T>(page: Page, read: () => Promise<T>): Promise<T> {
  let last = await read();
  for (let same = 0; same < 2; ) {
    await frames(page, 4);
    const now = await read();
    same = JSON.stringify(now) === JSON.stringify(last) ? same + 1 : 0;
    last = now;
  }
  return last;
}

/** The next save of a part, once the server has answered it. */
export const nextSave = (page: Page) =>
  page.waitForResponse((r) => r.request().method() === "PATCH" && r.url().includes("/api/parts/"));

/** Clicks the middle of an edge on the blank, by its stable name. */
export async function clickEdge(page: Page, edge: string, modifiers: "Shift"[] = []): Promise<void> {
  await settled(page);
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

/** Where a point of the flat sheet is on the page, by the size that the view says and shows. */
export async function onBlank(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const box = (await page.locator('[data-view="blank"]').boundingBox())!;
  const [dx, dy, zoom] = await page.evaluate(() => {
    const g = document.querySelector('[data-view="blank"] > g')!;
    const m = (g as SVGGElement).transform.baseVal.consolidate()!.matrix;
    return [m.e, m.f, m.a];
  });
  return { x: box.x + dx + x * zoom, y: box.y + dy - y * zoom };
}

/** What the canvas of the blank has at a point of the page and `about` pixels around it: four numbers a pixel. */
export const canvasAt = (page: Page, { x, y }: { x: number; y: number }, about: number): Promise<number[]> =>
  page.evaluate(
    ([x, y, about]) => {
      const canvas = document.querySelector<HTMLCanvasElement>("canvas[data-openings]")!;
      const box = canvas.getBoundingClientRect();
      const sharp = canvas.width / box.width;
      const [px, py] = [Math.round((x - box.left) * sharp), Math.round((y - box.top) * sharp)];
      const wide = about * 2 + 1;
      return [...canvas.getContext("2d")!.getImageData(px - about, py - about, wide, wide).data];
    },
    [x, y, about] as const,
  );

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

/** Counts what a person does: a click is one, typing a value is one, a key is one, a drag is one. */
export class Hand {
  actions = 0;
  private readonly page: Page;

  constructor(page: Page) {
    this.page = page;
  }

  async click(selector: string): Promise<void> {
    this.actions++;
    await this.page.click(selector);
  }

  /** An edge on the blank; `add` holds Shift. */
  async edge(name: string, add = false): Promise<void> {
    this.actions++;
    await clickEdge(this.page, name, add ? ["Shift"] : []);
  }

  /** A corner on the blank. */
  async corner(name: string, add = false): Promise<void> {
    this.actions++;
    await clickAt(this.page, `[data-view="blank"] [data-corner="${name}"]`, 0.5, 0.5, add);
  }

  /** A place on a plate of the blank, in shares of its box from the left and from the top. */
  async plate(id: string, x = 0.5, y = 0.5, add = false): Promise<void> {
    this.actions++;
    await clickAt(
      this.page,
      `[data-view="blank"] [data-pick*="\\"plate\\",\\"id\\":\\"${id}\\""]`,
      x,
      y,
      add,
    );
  }

  /** Points at a place of a plate on the blank, and presses nothing. */
  async point(id: string, x = 0.5, y = 0.5): Promise<void> {
    this.actions++;
    await settled(this.page);
    const plate = `[data-view="blank"] [data-pick*="\\"plate\\",\\"id\\":\\"${id}\\""]`;
    const box = (await this.page.locator(plate).first().boundingBox())!;
    await this.page.mouse.move(box.x + box.width * x, box.y + box.height * y, { steps: 4 });
  }

  /** A bend on the blank, by its row in the bend list's order. */
  async bend(id: string): Promise<void> {
    this.actions++;
    await clickAt(this.page, `[data-view="blank"] [data-pick*="\\"bend\\",\\"id\\":\\"${id}\\""]`, 0.4, 0.5);
  }

  /** A round hole on the blank, by the step that made it, in its middle. */
  async hole(step: string): Promise<void> {
    this.actions++;
    await clickAt(this.page, `[data-view="blank"] [data-within="cut:${step}"]`, 0.5, 0.5);
  }

  async key(...keys: readonly string[]): Promise<void> {
    for (const key of keys) {
      this.actions++;
      await this.page.keyboard.press(key);
    }
  }

  /** Types over what the field with the cursor has. */
  async type(text: string): Promise<void> {
    this.actions++;
    await this.page.keyboard.type(text);
  }

  /** Clicks a field and types over it: two actions. */
  async into(selector: string, text: string): Promise<void> {
    await this.click(selector);
    await this.type(text);
  }

  /** Changes a choice of two over: one action. */
  async toggle(step: string, key: string, row = ""): Promise<void> {
    await this.click(`[data-step="${step}"] ${row} [role=button][data-field="${key}"]`);
  }

  /** Opens a choice of a step and takes one: two actions. */
  async choose(step: string, key: string, option: string): Promise<void> {
    await this.toggle(step, key);
    await this.click(`[data-option="${option}"]`);
  }
}

async function clickAt(page: Page, selector: string, x: number, y: number, shift = false): Promise<void> {
  await settled(page);
  // Without what strokes add to it.
  const box = await page
    .locator(selector)
    .first()
    .evaluate((e) => e.getBoundingClientRect().toJSON() as DOMRect);
  if (shift) await page.keyboard.down("Shift");
  await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  if (shift) await page.keyboard.up("Shift");
}
