import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { gzipSync } from "node:zlib";
import { type Browser, type BrowserContext, chromium, type Page } from "@playwright/test";

/**
 * What each screen weighs, and how long it takes until what it is for stands on it: on a device four times slower, on a slow line the
 * first time, and there again, when the device has the application. Prints one flat JSON object; sizes in kB (1000 bytes, gzip), times in ms,
 * the median of so many rounds; and the longest that map bench and run sheet stand still while they are panned, dragged and ticked (0 where
 * never for 50 ms).
 */

const ROUNDS = Number(process.env["ROUNDS"] ?? "3");
const SLOWER = 4;
// 400 kbit/s each way with 400 ms of delay: a phone with one bar.
const SLOW_LINE = {
  offline: false,
  latency: 400,
  downloadThroughput: 400_000 / 8,
  uploadThroughput: 400_000 / 8,
};
const PATIENCE_MS = 120_000;

const DIST = fileURLToPath(new URL("../../web/dist/", import.meta.url));
const SERVER = process.env["SERVER_URL"] ?? "";

interface Chunk {
  readonly file: string;
  readonly imports?: readonly string[];
}

const sizeKB = (file: string): number => gzipSync(readFileSync(`${DIST}${file}`)).length / 1000;

/** JavaScript that is fetched before a screen can show, by its source. */
const screenKB = (manifest: Readonly<Record<string, Chunk>>, source: string): number => {
  const needed = new Set<string>();
  const need = (key: string): void => {
    if (needed.has(key)) return;
    needed.add(key);
    for (const other of manifest[key]?.imports ?? []) need(other);
  };
  need("index.html");
  need(source);
  return [...needed].reduce((sum, key) => sum + sizeKB(manifest[key]?.file ?? ""), 0);
};

/** The worker, and the file of each of its subjects. */
const besideFiles = (): Record<string, string> =>
  Object.fromEntries(
    readdirSync(`${DIST}assets`).flatMap((file) => {
      const subject =
        /^([a-z]+)-beside-[^.]+\.js$/u.exec(file)?.[1] ??
        (/^beside\.worker-[^.]+\.js$/u.test(file) ? "worker" : undefined);
      return subject ? [[subject, file]] : [];
    }),
  );

/** A file of the worker and all that it cannot begin without. */
const withImports = (file: string): string[] => {
  const needed = new Set([file]);
  for (const one of needed) {
    const text = readFileSync(`${DIST}assets/${one}`, "utf8");
    for (const [, other = ""] of text.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/gu))
      needed.add(other);
  }
  return [...needed];
};

const SCREENS = {
  Bench: {
    source: "src/screens/bench/bench.tsx",
    shows: "[aria-label='Frost ladder of the lot'] a",
  },
  Unit: { source: "src/screens/unit/unit-screen.tsx", shows: ".react-flow__node" },
  MapBench: { source: "src/screens/map/map-bench.tsx", shows: ".react-flow__node" },
  RunSheet: {
    source: "src/screens/run/run-screen.tsx",
    shows: "main [role=checkbox], main input[type=checkbox]",
  },
} as const;

type Screen = keyof typeof SCREENS;

const median = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[values.length >> 1] ?? Number.NaN;

const signedIn = async (browser: Browser): Promise<BrowserContext> => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const reply = await context.request.post(`${SERVER}/api/sign-in`, {
    data: { name: "amadi", password: process.env["DEMO_PASSWORD"] ?? "" },
  });
  if (!reply.ok()) throw new Error(`not signed in: ${reply.status()}`);
  return context;
};

/** Addresses of the screens, of one unit of the demo and a run begun on it. */
const addressesOf = async (browser: Browser): Promise<Record<Screen, string>> => {
  const context = await signedIn(browser);
  const page = await context.newPage();
  await page.goto(`${SERVER}/units`);
  const unit = await page
    .getByRole("link", { name: /^Teasel/u })
    .first()
    .getAttribute("href");
  await page.goto(`${SERVER}${unit}/plan`);
  await page.getByRole("button", { name: "Begin at the unit" }).click();
  await page.getByRole("button", { name: "Found so, begin" }).click();
  await page.waitForURL(/\/runs\//u);
  await page.waitForSelector(SCREENS.RunSheet.shows);
  const run = new URL(page.url()).pathname;
  await context.close();
  return { Bench: "/", Unit: unit ?? "", MapBench: `${unit}/map`, RunSheet: run };
};

/** Time until what a screen is for stands on it. */
const timeTo = async (page: Page, address: string, shows: string): Promise<number> => {
  const begun = performance.now();
  await page.goto(`${SERVER}${address}`, { waitUntil: "commit", timeout: PATIENCE_MS });
  await page.waitForSelector(shows, { timeout: PATIENCE_MS, state: "attached" });
  return performance.now() - begun;
};

const throttled = async (
  page: Page,
  how: { slower?: number; line?: typeof SLOW_LINE },
): Promise<void> => {
  const session = await page.context().newCDPSession(page);
  await session.send("Network.enable");
  if (how.slower) await session.send("Emulation.setCPUThrottlingRate", { rate: how.slower });
  if (how.line) await session.send("Network.emulateNetworkConditions", how.line);
};

const measure = async (
  browser: Browser,
  address: string,
  shows: string,
): Promise<{ slower: number; first: number; again: number }> => {
  const [slower, first, again]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < ROUNDS; i++) {
    const plain = await signedIn(browser);
    const page = await plain.newPage();
    await throttled(page, { slower: SLOWER });
    slower.push(await timeTo(page, address, shows));
    await plain.close();
    const far = await signedIn(browser);
    const there = await far.newPage();
    await throttled(there, { line: SLOW_LINE });
    first.push(await timeTo(there, address, shows));
    // The device keeps the application as soon as there is time for it.
    await there.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await there.close();
    const back = await far.newPage();
    await throttled(back, { line: SLOW_LINE });
    again.push(await timeTo(back, address, shows));
    await far.close();
  }
  return { slower: median(slower), first: median(first), again: median(again) };
};

/** What is done with the hand on a screen, to see whether it keeps up. */
const HANDS: Partial<Record<Screen, (page: Page) => Promise<void>>> = {
  MapBench: async (page) => {
    const { mouse } = page;
    await mouse.move(400, 700);
    await mouse.down();
    await mouse.move(500, 600, { steps: 30 });
    await mouse.up();
    await page.mouse.wheel(0, 300);
    const part = await page.locator(".react-flow__node").first().boundingBox();
    if (!part) throw new Error("no part to drag");
    await mouse.move(part.x + part.width / 2, part.y + part.height / 2);
    await mouse.down();
    await mouse.move(part.x + 120, part.y + 90, { steps: 30 });
    await mouse.up();
  },
  RunSheet: async (page) => {
    const rows = page.locator("main [role=checkbox], main input[type=checkbox]");
    const many = Math.min(await rows.count(), 4);
    for (let i = 0; i < many; i++) await rows.nth(i).click();
    for (let i = 0; i < many; i++) await rows.nth(i).click();
  },
};

/** The longest that a screen stands still under the hand, ms; what is shorter than 50 is not told apart. */
const longestTask = async (
  browser: Browser,
  address: string,
  shows: string,
  hand: (page: Page) => Promise<void>,
  slower: number,
): Promise<number> => {
  const context = await signedIn(browser);
  const page = await context.newPage();
  await page.addInitScript(() => {
    const longest = { ms: 0 };
    Object.assign(globalThis, { longest });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) longest.ms = Math.max(longest.ms, duration);
    }).observe({ type: "longtask" });
  });
  await timeTo(page, address, shows);
  await page.waitForLoadState("networkidle");
  await throttled(page, { slower });
  const told = <T>(work: (longest: { ms: number }) => T): Promise<T> =>
    page.evaluate(`(${work.toString()})(globalThis.longest)`) as Promise<T>;
  await told((longest) => void (longest.ms = 0));
  await hand(page);
  await page.waitForLoadState("networkidle");
  const ms = await told((longest) => longest.ms);
  await context.close();
  return ms;
};

const manifest = JSON.parse(readFileSync(`${DIST}.vite/manifest.json`, "utf8")) as Record<
  string,
  Chunk
>;
const browser = await chromium.launch({
  executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium",
  args: ["--headless", "--no-sandbox", "--disable-gpu"],
});
const figures: Record<string, number> = { firstKB: screenKB(manifest, "index.html") };
for (const [name, { source }] of Object.entries(SCREENS))
  figures[`kB${name}`] = screenKB(manifest, source);
const besides = besideFiles();
const pieces = new Set<string>();
for (const [subject, file] of Object.entries(besides)) {
  const needed = withImports(file);
  figures[`kBBeside_${subject}`] = needed.reduce((sum, f) => sum + sizeKB(`assets/${f}`), 0);
  for (const f of needed) pieces.add(f);
}
figures["kBBesideAllTogether"] = [...pieces].reduce((sum, f) => sum + sizeKB(`assets/${f}`), 0);
figures["kBBesideLargestFile"] = Math.max(...[...pieces].map((f) => sizeKB(`assets/${f}`)));
const addresses = await addressesOf(browser);
for (const [name, { shows }] of Object.entries(SCREENS)) {
  const { slower, first, again } = await measure(browser, addresses[name as Screen], shows);
  figures[`ms${name}At4x`] = slower;
  figures[`ms${name}SlowLineFirst`] = first;
  figures[`ms${name}SlowLineAgain`] = again;
  const hand = HANDS[name as Screen];
  if (hand)
    for (const times of [1, SLOWER])
      figures[`msLongestTask${name}At${times}x`] = await longestTask(
        browser,
        addresses[name as Screen],
        shows,
        hand,
        times,
      );
}
await browser.close();
console.log(
  JSON.stringify(
    Object.fromEntries(Object.entries(figures).map(([k, v]) => [k, Math.round(v)])),
    null,
    2,
  ),
);
