import { useEffect, useState } from "react";
import { Navigate, Outlet, useLocation, useNavigate } from "react-router";
import { pendingNow, usePending } from "../device/outbox.ts";
import { signOutHere } from "../device/sign-out.ts";
import { useSender } from "../sending/use-sender.ts";
import { WaitingSheet } from "../sending/waiting-sheet.tsx";
import { useMeQuery } from "../store/api.ts";
import { Sheet } from "../ui/sheet.tsx";
import { useKeys } from "../ui/use-keys.ts";
import { Waiting } from "../ui/waiting.tsx";
import { writeDaysAs } from "../ui/words.ts";
import { Bar } from "./bar.tsx";
import { Finder } from "./finder.tsx";
import { KeysSheet } from "./keys-sheet.tsx";
import { BarPlace, usePlace } from "./slots.tsx";
import { useTheme } from "./theme.ts";
import { UnsentSheet } from "./unsent-sheet.tsx";

/** Asks before a page is closed on what stands in it alone. */
const useCloseAsked = (): void => {
  const onlyHere = usePending().some((e) => e.unsaved || e.saving);
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (onlyHere) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [onlyHere]);
};

/** The bar over every screen, sign-in kept outside it. */
export const Shell = () => {
  const { data: me, isLoading, isError, error } = useMeQuery();
  const [theme, turnTheme] = useTheme();
  const [place, setPlace] = usePlace();
  const [sheet, setSheet] = useState<"keys" | "find" | "waiting">();
  const [unsent, setUnsent] = useState(0);
  const { reached } = useSender();
  const navigate = useNavigate();
  const location = useLocation();
  // Before anything below is drawn: it says how days are written.
  if (me) writeDaysAs(me.workshop.dates);
  const close = (): void => setSheet(undefined);
  useCloseAsked();
  useKeys(true, {
    "[Shift]+?": () => setSheet("keys"),
    "[Shift]+/": (event) => {
      event.preventDefault();
      setSheet("find");
    },
    l: turnTheme,
    "g b": () => void navigate("/"),
    "g u": () => void navigate("/units"),
    "g p": () => void navigate("/parts"),
    "g f": () => void navigate("/findings"),
    "g c": () => void navigate("/customers"),
  });

  if (isLoading) return <Waiting />;
  const signedOut = isError && (error as { status?: unknown }).status === 401;
  if (signedOut)
    return <Navigate to={`/sign-in?to=${encodeURIComponent(location.pathname)}`} replace />;

  const leave = async (): Promise<void> => {
    if (me) await signOutHere({ personId: me.person.id, workshopId: me.workshop.id });
    // A fresh page keeps nothing of the last person in memory.
    window.location.assign("/sign-in");
  };
  const wantToLeave = (): void => {
    const kept = pendingNow().filter((e) => e.personId === me?.person.id).length;
    if (kept === 0) void leave();
    else setUnsent(kept);
  };
  return (
    <BarPlace value={place}>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-3"
      >
        Skip to the work
      </a>
      <Bar
        theme={theme}
        onTheme={turnTheme}
        reached={reached}
        place={setPlace}
        onWaiting={() => setSheet("waiting")}
        onLeave={wantToLeave}
      />
      <main id="main">
        <Outlet />
      </main>
      <KeysSheet open={sheet === "keys"} onClose={close} />
      <UnsentSheet unsent={unsent} onStay={() => setUnsent(0)} onLeave={() => void leave()} />
      {sheet === "waiting" && <WaitingSheet onClose={close} />}
      <Sheet open={sheet === "find"} onClose={close} title="Find a unit">
        <Finder onFound={(to) => (close(), void navigate(to))} />
      </Sheet>
    </BarPlace>
  );
};
