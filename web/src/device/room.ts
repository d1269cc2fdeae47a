import { useEffect, useState } from "react";

/** How much room this device gives, and that it does not take it back. */

export interface Room {
  /** Part of what the browser allows that is used, 0 to 1. */
  readonly used: number;
  readonly quotaBytes: number;
  /** Whether the browser has promised not to clear it by itself. */
  readonly lasting: boolean;
}

const askForRoom = async (): Promise<Room | undefined> => {
  const { storage } = navigator as { storage?: StorageManager };
  if (!storage?.estimate) return undefined;
  try {
    const lasting = (await storage.persisted?.()) || ((await storage.persist?.()) ?? false);
    const { usage = 0, quota = 0 } = await storage.estimate();
    return quota > 0 ? { used: usage / quota, quotaBytes: quota, lasting } : undefined;
  } catch {
    return undefined;
  }
};

/** From here on the bar warns. */
export const NEARLY_FULL = 0.9;
const AGAIN_MS = 60_000;

/** The room on this device, looked at now and then. */
export const useRoom = (): Room | undefined => {
  const [room, setRoom] = useState<Room>();
  useEffect(() => {
    const look = (): void => void askForRoom().then(setRoom);
    look();
    const again = setInterval(look, AGAIN_MS);
    return () => clearInterval(again);
  }, []);
  return room;
};
