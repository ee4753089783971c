import { useEffect, useState } from 'react';

/** Keeps the screen on while something is under way, where the browser can; true while it does. */
export function useWakeLock(wanted: boolean): boolean {
  const [held, setHeld] = useState(false);
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const hold = async () => {
      if (document.hidden || gone) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (gone) return await lock.release();
        lock.addEventListener('release', () => setHeld(false)); // the page was hidden, or power is low
        setHeld(true);
      } catch {
        setHeld(false); // the browser does not want to, for one: the screen goes off as ever
      }
    };
    const again = () => void hold();
    again();
    document.addEventListener('visibilitychange', again);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release();
    };
  }, [wanted]);
  return held;
}
