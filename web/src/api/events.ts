import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { isBack } from '../away/away';
import { thisWindow } from './client';
import { readAgain } from './hooks';

/** How long a way that was closed for good, such as by a passphrase that was wanted, rests before it is tried again. */
const restMs = 3000;

/**
 * What other windows change is read again as soon as the server tells of it. Returned is what is wrong with the ground
 * that the server stands on, in its words; nothing for nothing.
 */
export function useEvents(): string {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    let source: EventSource;
    let timer: ReturnType<typeof setTimeout>;
    const again = () => void readAgain(queries);
    const listen = () => {
      source = new EventSource('/api/events');
      source.addEventListener('all', again);
      source.addEventListener('open', () => {
        if (isBack()) again();
      });
      source.addEventListener('trouble', e => setTrouble(JSON.parse((e as MessageEvent<string>).data) as string));
      source.addEventListener('change', e => {
        if ((JSON.parse((e as MessageEvent<string>).data) as { actor: string }).actor !== thisWindow) again();
      });
      source.addEventListener('error', () => {
        if (source.readyState !== EventSource.CLOSED) return;
        timer = setTimeout(() => {
          listen();
          again();
        }, restMs);
      });
    };
    listen();
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [queries]);
  return trouble;
}
