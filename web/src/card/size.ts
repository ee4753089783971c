import { useCallback, useEffect, useRef, useState } from 'react';
import { ask, client, words, type Size } from '../api/client';
import type { RouteName } from './way';

/** Values tried with the sliders in place of the chosen ones. */
export interface Trial {
  run?: number;
  start?: number;
  share?: number;
}

/** Changes what is tried. */
export type Attempt = (change: (trial: Trial) => Trial) => void;

const read = (motor: string, route: RouteName) =>
  ask(client.GET('/motors/{id}/size', { params: { path: { id: motor }, query: { route } } }));

/** The quick answer to a trial, with the schools and workings of the whole one. */
async function follow(motor: string, route: RouteName, trial: Trial, whole: Size): Promise<Size> {
  const { live } = whole.answer;
  const query = {
    route,
    run: trial.run ?? live.run_microfarad,
    start: trial.start ?? live.start_microfarad,
    share: trial.share ?? live.load_share,
    quick: true,
  };
  const quick = await ask(client.GET('/motors/{id}/size', { params: { path: { id: motor }, query } }));
  const {
    schools,
    start_schools,
    output_schools,
    workings,
    usable_bare,
    model_run_microfarad,
    model_start_microfarad,
    model_kept,
  } = whole.answer;
  return {
    ...quick,
    usable: whole.usable,
    answer: {
      ...quick.answer,
      schools,
      start_schools,
      output_schools,
      workings,
      usable_bare,
      model_run_microfarad,
      model_start_microfarad,
      model_kept,
    },
  };
}

/**
 * The Size answer that follows the hand. One question is under way at a time;
 * when its answer has come, the latest trial is asked next, so the picture is
 * never more than one answer behind. stamp changes when what is saved does:
 * then the whole answer is read anew, and what was tried is no trial any more.
 */
export function useSize(motor: string, route: RouteName, sound: boolean, stamp: number) {
  const [size, setSize] = useState<Size | null>(null);
  const [fault, setFault] = useState('');
  const whole = useRef<{ version: string; size: Size } | null>(null);
  const asked = useRef('');
  const wanted = useRef({ version: '', motor, route, trial: {} as Trial });
  const busy = useRef(false);

  const pump = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const key = () => wanted.current.version && wanted.current.version + JSON.stringify(wanted.current.trial);
    while (asked.current !== key()) {
      const { version, motor: id, route: on, trial: values } = wanted.current;
      const now = key();
      asked.current = now;
      if (now === '') break;
      try {
        if (whole.current?.version !== version) whole.current = { version, size: await read(id, on) };
        setSize(Object.keys(values).length > 0 ? await follow(id, on, values, whole.current.size) : whole.current.size);
        setFault('');
      } catch (e) {
        if (now === key()) setFault(words(e));
      }
    }
    busy.current = false;
  }, []);

  const attempt: Attempt = useCallback(
    change => {
      wanted.current = { ...wanted.current, trial: change(wanted.current.trial) };
      void pump();
    },
    [pump],
  );

  useEffect(() => {
    wanted.current = { version: sound ? JSON.stringify([motor, route, stamp]) : '', motor, route, trial: {} };
    if (!sound) setSize(null);
    void pump();
  }, [motor, route, sound, stamp, pump]);

  return { size: sound ? size : null, fault, attempt };
}
