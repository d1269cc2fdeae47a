/**
 * Puts the application on this device, so that it opens without a signal: once nothing more is being fetched for what is on the screen,
 * since both come by the same line.
 */

const QUIET_MS = 1500;
const AT_THE_LATEST_MS = 60_000;

interface Followed {
  readonly subscribe: (told: () => void) => () => void;
}

/**
 * @param isBusy whether anything is on its way
 * @param store tells when that may have changed
 * @param quietMs for how long nothing more may have been on its way
 */
export const whenQuiet = (
  store: Followed,
  isBusy: () => boolean,
  then: () => void,
  quietMs = QUIET_MS,
): void => {
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let isDone = false;
  const done = (): void => {
    if (isDone) return;
    isDone = true;
    clearTimeout(waiting);
    clearTimeout(latest);
    leave();
    then();
  };
  const look = (): void => {
    clearTimeout(waiting);
    if (!isDone && !isBusy()) waiting = setTimeout(done, quietMs);
  };
  const latest = setTimeout(done, AT_THE_LATEST_MS);
  const leave = store.subscribe(look);
  look();
};

// Where the browser has no service workers, or the page is not served securely, everything works but a reload without a signal.
export const keepApplication = (): void =>
  void navigator.serviceWorker?.register("/sw.js").catch(() => undefined);
