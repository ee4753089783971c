import type { Schemas } from '../api/client';
import { usePending } from '../parts/outbox';

export type Reading = Schemas['ProveReading'];

/** Readings of a motor that are on their way. */
export const useReadings = (motor: string) => usePending(`readings.${motor}`, 'readings', motor);
