import { useCallback, useEffect, useRef, useState } from 'react';
import { ask, client, words, type Size } from '../api/client';

/** Values tried with the sliders in place of the chosen ones. */
export interface Trial {
  run?: number;
  start?: number;
  share?: number;
}

/**
 * The Size answer that follows the hand. One question is under way at a time;
 * when its answer has come, the latest trial is asked next, so the picture is
 * never more than one answer behind. stamp changes when what is saved does.
 */
export function useSize(motor: string, sound: boolean, stamp: number, trial: Trial) {
  const [size, setSize] = useState<Size | null>(null);
  const [fault, setFault] = useState('');
  const asked = useRef('');
  const wanted = useRef({ key: '', motor, trial });
  const busy = useRef(false);

  const pump = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    while (asked.current !== wanted.current.key) {
      const { key, motor: id, trial: values } = wanted.current;
      asked.current = key;
      if (key === '') break;
      try {
        const answer = await ask(client.GET('/motors/{id}/size', { params: { path: { id }, query: values } }));
        setSize(answer);
        setFault('');
      } catch (e) {
        if (wanted.current.key === key) setFault(words(e));
      }
    }
    busy.current = false;
  }, []);

  useEffect(() => {
    wanted.current = { key: sound ? JSON.stringify([motor, stamp, trial]) : '', motor, trial };
    if (!sound) {
      asked.current = '';
      setSize(null);
    }
    void pump();
  }, [motor, sound, stamp, trial, pump]);

  return { size: sound ? size : null, fault };
}
