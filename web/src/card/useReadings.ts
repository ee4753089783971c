import type { Schemas } from '../api/client';
import { usePending } from '../parts/outbox';

/** A reading as it is sent: in is the unit of a figure, by its place, where the meter showed another. */
export type Reading = Schemas['ProveReading'] & { in?: Record<string, string> };

/** Readings of a motor that are on their way. */
export const useReadings = (motor: string) => usePending(`readings.${motor}`, 'readings', motor);
