import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { ask, client, type Schemas } from '../api/client';
import { at } from '../api/hooks';
import { usePending } from '../parts/usePending';

export type Reading = Schemas['ProveReading'];

/** Readings of a motor that are on their way. */
export function useReadings(motor: string) {
  const queries = useQueryClient();
  const post = useCallback(
    async (body: Reading) => {
      const page = await ask(client.POST('/motors/{id}/readings', { ...at(motor), body }));
      queries.setQueriesData({ queryKey: ['prove', motor] }, page);
      await Promise.all(
        ['daybook', 'acceptance', 'first-run', 'sheet'].map(key => queries.invalidateQueries({ queryKey: [key] })),
      );
    },
    [motor, queries],
  );
  return usePending<Reading>(`readings.${motor}`, post);
}
