import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at, readAgain } from '../api/hooks';
import { say } from '../frame/saving';

/** Keeps what a shop's Rulebook has of its own; what is wrong with it stays until it is kept. */
export function useOwn(shop: Schemas['ShopHead']) {
  const [fault, setFault] = useState<Problem | null>(null);
  const queries = useQueryClient();
  const keep = async (part: Partial<Schemas['ShopHead']['own']>): Promise<boolean> => {
    try {
      const body = { version: shop.version, own: { ...shop.own, ...part } };
      await ask(client.PUT('/shops/{id}/own', { ...at(shop.id), body }));
      setFault(null);
      say({ text: 'Saved', bad: false });
      await readAgain(queries);
      return true;
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
      return false;
    }
  };
  return { keep, fault };
}
