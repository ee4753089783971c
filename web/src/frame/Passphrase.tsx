import { lazy, useEffect, useState, type ReactNode } from 'react';
import { Later } from '../parts/Later';

const Gate = lazy(() => import('./Gate').then(m => ({ default: m.Gate })));

/** Asks for the shop's passphrase, or for a name and one's own, whenever the server wants it. */
export function Passphrase({ children }: { children: ReactNode }) {
  const [wanted, setWanted] = useState<'shop' | 'name' | null>(null);
  useEffect(() => {
    const ask = (e: Event) => setWanted((e as CustomEvent<boolean>).detail ? 'name' : 'shop');
    window.addEventListener('brackmoor:passphrase', ask);
    return () => window.removeEventListener('brackmoor:passphrase', ask);
  }, []);
  return (
    <>
      {children}
      {wanted && (
        <Later>
          <Gate named={wanted === 'name'} onIn={() => setWanted(null)} />
        </Later>
      )}
    </>
  );
}
