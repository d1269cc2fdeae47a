import { useEffect, useState } from "react";

/** A new version of the application that has come to this device, and is taken when a person says so: nothing typed is lost to it. */

// Tablets keep a tab open for weeks.
const LOOK_EVERY_MS = 3_600_000;

interface Found {
  readonly waiting: boolean;
  readonly take: () => void;
}

/** Follows the service worker: says when a new one waits, and lets it take over. */
export const useNewVersion = (
  container: ServiceWorkerContainer | undefined = navigator.serviceWorker,
): Found => {
  const [waiting, setWaiting] = useState<ServiceWorker>();
  useEffect(() => {
    if (!container) return undefined;
    let over = false;
    let timer: ReturnType<typeof setInterval> | undefined;
    const noted = (worker: ServiceWorker | null | undefined): void => {
      // The first one of all takes over by itself.
      if (worker && !over && container.controller) setWaiting(worker);
    };
    // It is put on the device only when there is time for it.
    void container.ready.then((registration) => {
      if (over) return;
      noted(registration.waiting);
      registration.addEventListener("updatefound", () => {
        const worker = registration.installing;
        worker?.addEventListener("statechange", () => {
          if (worker.state === "installed") noted(worker);
        });
      });
      timer = setInterval(() => void registration.update().catch(() => undefined), LOOK_EVERY_MS);
    });
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [container]);
  return {
    waiting: waiting !== undefined,
    take: () => {
      // Once the new one is in charge the page is loaded from it.
      container?.addEventListener("controllerchange", () => window.location.reload(), {
        once: true,
      });
      // A worker of this page has no other origin.
      // oxlint-disable-next-line unicorn/require-post-message-target-origin
      waiting?.postMessage({ type: "SKIP_WAITING" });
    },
  };
};
