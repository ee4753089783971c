/** Now, as what is written down has it. */
export const moment = () => new Date().toISOString().replace(/\.\d+Z$/, 'Z');

/** A day as it is here, and not in Greenwich. */
export const dayOf = (d: Date) =>
  [d.getFullYear(), d.getMonth() + 1, d.getDate()].map(n => String(n).padStart(2, '0')).join('-');

const shelf = 'brackmoor.hand';

/** Whose hand wrote last in this browser. */
export const lastHand = () => localStorage.getItem(shelf) ?? '';
export const keepHand = (hand: string) => localStorage.setItem(shelf, hand.trim());
