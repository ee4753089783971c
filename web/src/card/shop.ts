import { createContext, useContext, useMemo } from 'react';
import type { Schemas } from '../api/client';
import { useChoices } from '../api/hooks';

/** The shop in which the machine on the card stands. */
export const CardShop = createContext<Schemas['ShopHead'] | null>(null);

/** The kinds of load that a motor may drive: the usual ones and the shop's own. */
export function useLoads(): { value: string; label: string }[] {
  const usual = useChoices().data?.loads;
  const own = useContext(CardShop)?.own.loads;
  return useMemo(() => [...(own ?? []), ...(usual ?? [])].map(k => ({ value: k.name, label: k.title })), [usual, own]);
}
