import { useQuery, keepPreviousData } from '@tanstack/react-query';
import { ask, client, type Schemas } from '../api/client';
import { at } from '../api/hooks';
import type { Draft } from './draft';

export type Way = Draft['way'];
export type RouteName = Exclude<Way['route'], ''>;

const boxes: RouteName[] = ['static', 'phase-box'];
const capacitors: RouteName[] = ['run-capacitor', 'start-run-capacitor', ...boxes];
const drives: RouteName[] = ['drive-single-phase', 'drive-derated', 'dc-bus'];

/** What kind of picture a route is shown by. */
export const kindOf = (route: RouteName): 'capacitors' | 'rotary' | 'drive' | 'motor' =>
  capacitors.includes(route)
    ? 'capacitors'
    : drives.includes(route)
      ? 'drive'
      : route === 'rotary'
        ? 'rotary'
        : 'motor';
export const isBox = (route: RouteName) => boxes.includes(route);

/** The route that a motor is sized for: capacitors while none is taken. */
export const taken = (way: Way): RouteName => way.route || 'start-run-capacitor';

/** A way on which another route is taken; the one before it is kept beside it. */
export const take = (way: Way, route: RouteName): Way => ({
  ...way,
  route,
  kept: [...new Set([...way.kept, ...(way.route ? [way.route] : [])])].filter(n => n !== route),
});

/** A way with a route kept beside the one taken, or no longer. */
export const keep = (way: Way, route: RouteName, on: boolean): Way => ({
  ...way,
  kept: on ? [...way.kept.filter(n => n !== route), route] : way.kept.filter(n => n !== route),
});

/** The rotary converter for a motor as it is saved. */
export const useRotary = (motor: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: ['rotary', motor, stamp],
    enabled,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () => ask(client.GET('/motors/{id}/rotary', at(motor))),
  });

/** A rotary converter as it is being tried; null while nothing is. */
export interface RotaryTrial {
  idler: number;
  ac: number;
  bc: number;
  share: number;
}
export const useRotaryTrial = (motor: string, stamp: number, trial: RotaryTrial | null) =>
  useQuery({
    queryKey: ['rotary', motor, stamp, trial],
    enabled: !!trial,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () => ask(client.GET('/motors/{id}/rotary/try', { params: { path: { id: motor }, query: trial! } })),
  });

/** A drive for the motor on a route of drives, at the load that is saved or at one that is tried. */
export const useDrive = (motor: string, stamp: number, route: RouteName, enabled: boolean, share?: number) =>
  useQuery({
    queryKey: ['drive', motor, stamp, route, share],
    enabled,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(
        client.GET('/motors/{id}/drive', {
          params: { path: { id: motor }, query: share === undefined ? { route } : { route, share, quick: true } },
        }),
      ),
  });

/** A single-phase motor in the machine's place. */
export const useSinglePhase = (motor: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: ['single-phase', motor, stamp],
    enabled,
    staleTime: Infinity,
    queryFn: () => ask(client.GET('/motors/{id}/single-phase', at(motor))),
  });

/** The verdicts of a route that is not of capacitors. */
export function useRouteVerdicts(
  motor: string,
  stamp: number,
  route: RouteName,
  sound: boolean,
): Schemas['RuleVerdict'][] | undefined {
  const kind = kindOf(route);
  const rotary = useRotary(motor, stamp, sound && kind === 'rotary');
  const drive = useDrive(motor, stamp, route, sound && kind === 'drive');
  const single = useSinglePhase(motor, stamp, sound && kind === 'motor');
  switch (kind) {
    case 'rotary':
      return rotary.data?.answer.verdicts;
    case 'drive':
      return drive.data?.answer.verdicts;
    case 'motor':
      return single.data?.verdicts;
    default:
      return undefined;
  }
}
