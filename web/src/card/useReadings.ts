import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { ask, client, type Schemas } from '../api/client';
import { at, readSome } from '../api/hooks';
import { usePending } from '../parts/usePending';

export type Reading = Schemas['ProveReading'];

/** Readings of a motor that are on their way. */
export function useReadings(motor: string) {
  const queries = useQueryClient();
  const post = useCallback(
    async (body: Reading) => {
      const page = await ask(client.POST('/motors/{id}/readings', { ...at(motor), body }));
      queries.setQueriesData({ queryKey: ['prove', motor] }, page);
      readSome(queries, 'daybook', 'acceptance', 'first-run', 'sheet');
    },
    [motor, queries],
  );
  return usePending<Reading>(`readings.${motor}`, post);
}
