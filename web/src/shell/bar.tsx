import { CloudOff, CloudUpload, Lamp, LogOut, Sun, UserRound } from "lucide-react";
import { useCallback } from "react";
import { Link, useLocation } from "react-router";
import { usePending } from "../device/outbox.ts";
import { NEARLY_FULL, useRoom } from "../device/room.ts";
import { useMeQuery } from "../store/api.ts";
import { useNewVersion } from "./new-version.ts";
import type { Theme } from "./theme.ts";
import { ClockWatch } from "./clock-watch.tsx";

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

/** On its own row of the bar, or a narrow one: the screens. */
const NavLink = ({ to, label }: { to: string; label: string }) => {
  const { pathname } = useLocation();
  const here = to === "/" ? pathname === "/" : pathname.startsWith(to);
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

/** What waits on this device, or that it is nearly full. */
const KeptHere = ({ reached, onOpen }: { reached: boolean; onOpen: () => void }) => {
  const pending = usePending();
  const room = useRoom();
  if (pending.length === 0)
    return room && room.used > NEARLY_FULL ? (
      <span
        role="status"
        className="mr-2 rounded bg-rust px-3 py-1 text-[14px] font-semibold text-on-rust"
      >
        Device nearly full
      </span>
    ) : null;
  const troubled = pending.some((e) => e.refused || e.unsaved) || !reached;
  return (
    <button
      type="button"
      className={`mr-2 min-h-11 rounded px-3 text-[14px] font-semibold ${troubled ? "bg-rust text-on-rust" : "bg-white/15"}`}
      aria-label={keptWords(pending, reached)}
      onClick={onOpen}
    >
      <span className="hidden lg:inline">{keptWords(pending, reached)}</span>
      <span aria-hidden className="inline-flex items-center gap-1.5 lg:hidden">
        {reached ? <CloudUpload size={19} /> : <CloudOff size={19} />} {pending.length}
      </span>
    </button>
  );
};

const RoundButton = ({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: () => void;
  children: React.ReactNode;
}) => (
  <button
    type="button"
    onClick={onClick}
    aria-label={label}
    title={label}
    className="flex size-11 items-center justify-center rounded hover:bg-white/10"
  >
    {children}
  </button>
);

/** Screens that fill the window leave the bar as much of it as it takes. */
const useHeightKnown = () =>
  useCallback((header: HTMLElement | null) => {
    if (!header || typeof ResizeObserver === "undefined") return undefined;
    const watch = new ResizeObserver(() =>
      document.documentElement.style.setProperty("--bar-height", `${header.offsetHeight}px`),
    );
    watch.observe(header);
    return () => watch.disconnect();
  }, []);

/** The one row over every screen. */
export const Bar = ({
  theme,
  onTheme,
  reached,
  place,
  onWaiting,
  onLeave,
}: {
  theme: Theme;
  onTheme: () => void;
  reached: boolean;
  /** Takes the element into which a screen puts what is its own. */
  place: (element: HTMLElement | null) => void;
  onWaiting: () => void;
  onLeave: () => void;
}) => {
  const { data: me } = useMeQuery();
  const version = useNewVersion();
  return (
    <header
      ref={useHeightKnown()}
      className="no-print flex min-h-[52px] flex-wrap items-center gap-x-3 bg-bar px-4 pt-2 text-on-bar sm:flex-nowrap sm:pt-0"
    >
      <Link
        to="/"
        className="wide mr-1 hidden text-[16px] font-extrabold uppercase tracking-wide text-on-bar lg:block"
      >
        Upper Shed
      </Link>
      <nav aria-label="Screens" className="flex min-w-0 flex-1 overflow-x-auto sm:flex-none">
        <NavLink to="/" label="Bench" />
        <NavLink to="/units" label="Units" />
        <NavLink to="/findings" label="Findings" />
        <NavLink to="/parts" label="Parts" />
        <NavLink to="/reckoner" label="Reckoner" />
      </nav>
      <div
        ref={place}
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
        <ClockWatch />
        <KeptHere reached={reached} onOpen={onWaiting} />
        <Link
          to="/me"
          aria-label={`${me?.person.name ?? ""}: yourself and your workshop`}
          title="Yourself and your workshop"
          className="mr-1 flex min-h-11 items-center gap-1.5 rounded px-1.5 text-[14px] text-on-bar hover:bg-white/10"
        >
          <UserRound aria-hidden size={20} className="lg:hidden" />
          <span className="hidden lg:inline">
            {me?.person.name}
            <span className="hidden 2xl:inline">, {me?.person.role}</span>
          </span>
        </Link>
        <RoundButton label={theme === "lamp" ? "Daylight" : "Lamp"} onClick={onTheme}>
          {theme === "lamp" ? <Sun aria-hidden size={20} /> : <Lamp aria-hidden size={20} />}
        </RoundButton>
        <RoundButton label="Sign out" onClick={onLeave}>
          <LogOut aria-hidden size={20} />
        </RoundButton>
      </div>
    </header>
  );
};
