import { CloudOff, CloudUpload, Lamp, LogOut, Sun } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import { Link, Navigate, Outlet, useLocation, useNavigate } from "react-router";
import { pendingNow, usePending } from "../device/outbox.ts";
import { NEARLY_FULL, useRoom } from "../device/room.ts";
import { signOutHere } from "../device/sign-out.ts";
import { useSender } from "../sending/use-sender.ts";
import { WaitingSheet } from "../sending/waiting-sheet.tsx";
import { useMeQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { Waiting } from "../ui/waiting.tsx";
import { Finder } from "./finder.tsx";
import { BarPlace, usePlace } from "./slots.tsx";
import { useNewVersion } from "./new-version.ts";
import { useTheme } from "./theme.ts";

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "Find a unit"],
  ["?", "This list"],
  ["g b", "Go to the bench"],
  ["g u", "Go to the units"],
  ["g p", "Go to the parts register"],
  ["g f", "Go to the findings"],
  ["g c", "Go to the customers"],
  ["l", "Lamp or daylight"],
  ["n", "On a run sheet: done, next step"],
  ["a", "On a run sheet: tick the next row"],
  ["1 … 5", "On a walk-round: mark the point, go to the next"],
  ["j, k", "On a walk-round: next point, the one before"],
  ["n, f", "On a walk-round: note, finding"],
  ["a … z", "On the map bench: add a part by its first letters"],
  ["t", "On the map bench: tag valves one after another"],
  ["Shift arrows", "On the map bench: move the chosen part"],
  ["Del", "On the map bench: take out what is chosen"],
  ["Ctrl Z, Y", "On the map bench: undo, do again"],
  ["Ctrl D", "On the map bench: duplicate"],
  ["Ctrl S", "On the map bench: save"],
];

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/u.test(target.tagName));

/** What the bar says of what this device keeps. */
const keptWords = (
  pending: readonly { readonly refused?: unknown; readonly unsaved?: boolean }[],
  reached: boolean,
): string => {
  const refused = pending.filter((e) => e.refused).length;
  const unsaved = pending.filter((e) => e.unsaved).length;
  const more = [
    refused > 0 ? `${refused} not taken` : "",
    unsaved > 0 ? `${unsaved} not saved, device full` : "",
    reached ? "" : "no signal",
  ];
  return [`${pending.length} kept here`, ...more.filter(Boolean)].join(", ");
};

/** The bar over every screen, sign-in kept outside it. */
export const Shell = () => {
  const { data: me, isLoading, isError, error } = useMeQuery();
  const [theme, turnTheme] = useTheme();
  const [place, setPlace] = usePlace();
  const [sheet, setSheet] = useState<"keys" | "find" | "unsent" | "waiting" | null>(null);
  const [unsent, setUnsent] = useState(0);
  const pending = usePending();
  const room = useRoom();
  const version = useNewVersion();
  const { reached } = useSender();
  const navigate = useNavigate();
  const location = useLocation();

  useEffect(() => {
    let before = "";
    const pressed = (event: KeyboardEvent): void => {
      if (typing(event.target) || event.metaKey || event.ctrlKey || event.altKey) return;
      if (event.key === "?") setSheet("keys");
      else if (event.key === "/") {
        event.preventDefault();
        setSheet("find");
      } else if (event.key === "l") turnTheme();
      else if (before === "g" && event.key === "b") void navigate("/");
      else if (before === "g" && event.key === "u") void navigate("/units");
      else if (before === "g" && event.key === "p") void navigate("/parts");
      else if (before === "g" && event.key === "f") void navigate("/findings");
      else if (before === "g" && event.key === "c") void navigate("/customers");
      before = event.key;
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [navigate, turnTheme]);

  // Screens that fill the window leave the bar as much of it as it takes.
  const bar = useCallback((header: HTMLElement | null) => {
    if (!header || typeof ResizeObserver === "undefined") return undefined;
    const watch = new ResizeObserver(() =>
      document.documentElement.style.setProperty("--bar-height", `${header.offsetHeight}px`),
    );
    watch.observe(header);
    return () => watch.disconnect();
  }, []);

  const onlyHere = pending.filter((e) => e.unsaved || e.saving).length;
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (onlyHere > 0) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [onlyHere]);

  if (isLoading) return <Waiting />;
  const signedOut = isError && (error as { status?: unknown }).status === 401;
  if (signedOut)
    return <Navigate to={`/sign-in?to=${encodeURIComponent(location.pathname)}`} replace />;

  const wantToLeave = (): void => {
    const kept = pendingNow().filter((e) => e.personId === me?.person.id).length;
    if (kept === 0) return void leave();
    setUnsent(kept);
    setSheet("unsent");
  };
  const leave = async (): Promise<void> => {
    if (me) await signOutHere({ personId: me.person.id, workshopId: me.workshop.id });
    // A fresh page keeps nothing of the last person in memory.
    window.location.assign("/sign-in");
  };
  const nav = (to: string, label: string) => {
    const here = to === "/" ? location.pathname === "/" : location.pathname.startsWith(to);
    return (
      <Link
        to={to}
        aria-current={here ? "page" : undefined}
        className={`flex min-h-11 items-center px-1.5 text-[14px] text-on-bar sm:px-2 sm:text-[15px] ${here ? "underline decoration-2 underline-offset-8" : "opacity-90 hover:underline"}`}
      >
        {label}
      </Link>
    );
  };
  return (
    <BarPlace value={place}>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-3"
      >
        Skip to the work
      </a>
      <header
        ref={bar}
        className="no-print flex min-h-[52px] flex-wrap items-center gap-x-3 bg-bar px-4 pt-2 text-on-bar sm:flex-nowrap sm:pt-0"
      >
        <Link
          to="/"
          className="wide mr-1 hidden text-[16px] font-extrabold uppercase tracking-wide text-on-bar lg:block"
        >
          Upper Shed
        </Link>
        <nav aria-label="Screens" className="flex min-w-0 flex-1 overflow-x-auto sm:flex-none">
          {nav("/", "Bench")}
          {nav("/units", "Units")}
          {nav("/findings", "Findings")}
          {nav("/parts", "Parts")}
          {nav("/reckoner", "Reckoner")}
        </nav>
        <div
          ref={setPlace}
          className="order-last flex w-full min-w-0 flex-wrap items-center gap-2 pb-1 sm:order-none sm:w-auto sm:flex-1 sm:flex-nowrap sm:gap-3 sm:overflow-x-clip sm:pb-0"
        />
        <div className="ml-auto flex items-center">
          {version.waiting && (
            <button
              type="button"
              className="mr-2 min-h-11 rounded bg-white/15 px-3 text-[14px] font-semibold"
              onClick={version.take}
            >
              New version: take it
            </button>
          )}
          {room && room.used > NEARLY_FULL && pending.length === 0 && (
            <span
              role="status"
              className="mr-2 rounded bg-rust px-3 py-1 text-[14px] font-semibold text-on-rust"
            >
              Device nearly full
            </span>
          )}
          {pending.length > 0 && (
            <button
              type="button"
              className={`mr-2 min-h-11 rounded px-3 text-[14px] font-semibold ${pending.some((e) => e.refused || e.unsaved) || !reached ? "bg-rust text-on-rust" : "bg-white/15"}`}
              aria-label={keptWords(pending, reached)}
              onClick={() => setSheet("waiting")}
            >
              <span className="hidden lg:inline">{keptWords(pending, reached)}</span>
              <span aria-hidden className="inline-flex items-center gap-1.5 lg:hidden">
                {reached ? <CloudUpload size={19} /> : <CloudOff size={19} />} {pending.length}
              </span>
            </button>
          )}
          <span className="mr-1 hidden text-[14px] opacity-90 lg:inline">
            {me?.person.name}
            <span className="hidden 2xl:inline">, {me?.person.role}</span>
          </span>
          <button
            type="button"
            onClick={turnTheme}
            aria-label={theme === "lamp" ? "Daylight" : "Lamp"}
            title={theme === "lamp" ? "Daylight" : "Lamp"}
            className="flex size-11 items-center justify-center rounded hover:bg-white/10"
          >
            {theme === "lamp" ? <Sun aria-hidden size={20} /> : <Lamp aria-hidden size={20} />}
          </button>
          <button
            type="button"
            onClick={wantToLeave}
            aria-label="Sign out"
            title="Sign out"
            className="flex size-11 items-center justify-center rounded hover:bg-white/10"
          >
            <LogOut aria-hidden size={20} />
          </button>
        </div>
      </header>
      <main id="main">
        <Outlet />
      </main>
      <Sheet open={sheet === "keys"} onClose={() => setSheet(null)} title="Keys">
        <dl className="grid grid-cols-[8rem_1fr] gap-y-2">
          {KEYS.map(([key, does]) => (
            <div key={key} className="contents">
              <dt>
                <kbd className="rounded border border-line bg-raised px-2 py-0.5">{key}</kbd>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
      </Sheet>
      <Sheet
        open={sheet === "unsent"}
        onClose={() => setSheet(null)}
        title="Not everything is sent yet"
      >
        <p>
          {unsent} {unsent === 1 ? "entry is" : "entries are"} kept on this device and not on the
          server yet. They stay here, and go out when whoever made them signs in again on this
          device.
        </p>
        {onlyHere > 0 && (
          <p role="alert" className="mt-2 border-l-4 border-rust bg-rust-soft p-2">
            {onlyHere} of them {onlyHere === 1 ? "stands" : "stand"} in this page only, because this
            device is full: signing out loses them.
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button look="act" big onClick={() => setSheet(null)}>
            Stay
          </Button>
          <Button big onClick={() => void leave()}>
            Sign out all the same
          </Button>
        </div>
      </Sheet>
      {sheet === "waiting" && <WaitingSheet onClose={() => setSheet(null)} />}
      <Sheet open={sheet === "find"} onClose={() => setSheet(null)} title="Find a unit">
        <Finder onFound={(to) => (setSheet(null), void navigate(to))} />
      </Sheet>
    </BarPlace>
  );
};
