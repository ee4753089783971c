import { useChoices } from '../api/hooks';
import type { Draft } from './parts';

export type Way = Draft['way'];

/** The way that a motor is sized for: the server's own choice while none is taken. */
export const useTaken = (way: Way): string => {
  const route = useChoices().data?.route ?? '';
  return way.route || route;
};

/** A choice by which another way is taken; the one before it is kept beside it. */
export const take = (way: Way, route: string): Way => ({
  ...way,
  route,
  kept: [...new Set([...way.kept, ...(way.route ? [way.route] : [])])].filter(n => n !== route),
});

/** A choice with a way kept beside the one taken, or no longer. */
export const keep = (way: Way, route: string, on: boolean): Way => ({
  ...way,
  kept: on ? [...way.kept.filter(n => n !== route), route] : way.kept.filter(n => n !== route),
});
