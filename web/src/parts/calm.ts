import { startTransition, useEffect, useRef, useState } from 'react';

/** How long is waited for a frame, in milliseconds: a page that is not seen draws none. */
const patience = 100;

/**
 * A value as it is once the frame after its change has been drawn, for what may come after the pictures. It follows a
 * value that goes on changing, a frame behind.
 */
export function useCalm<T>(value: T): T {
  const [calm, setCalm] = useState(value);
  const latest = useRef(value);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => {
    latest.current = value;
    if (stop.current) return;
    const arrive = () => {
      stop.current = null;
      startTransition(() => setCalm(latest.current));
    };
    let timer = setTimeout(arrive, patience);
    const frame = requestAnimationFrame(() => {
      clearTimeout(timer);
      timer = setTimeout(arrive);
    });
    stop.current = () => {
      clearTimeout(timer);
      cancelAnimationFrame(frame);
    };
  }, [value]);
  useEffect(
    () => () => {
      stop.current?.();
      stop.current = null;
    },
    [],
  );
  return calm;
}
