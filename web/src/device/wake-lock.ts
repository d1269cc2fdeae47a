import { useEffect } from "react";

/** The screen stays awake while a sheet is worked from: wet hands do not unlock a tablet. */
export const useWakeLock = (): void => {
  useEffect(() => {
    const { wakeLock } = navigator as { wakeLock?: WakeLock };
    if (!wakeLock) return undefined;
    let lock: WakeLockSentinel | undefined;
    let over = false;
    const take = async (): Promise<void> => {
      if (over || document.visibilityState !== "visible") return;
      try {
        lock = await wakeLock.request("screen");
        if (over) await lock.release();
      } catch {
        // A low battery or a browser that does not want to: the sheet works all the same.
      }
    };
    // The browser lets go of it whenever the page is hidden.
    const shown = (): void => void take();
    void take();
    document.addEventListener("visibilitychange", shown);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", shown);
      void lock?.release().catch(() => undefined);
    };
  }, []);
};
