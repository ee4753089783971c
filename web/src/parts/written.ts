/** Now, as what is written down has it. */
export const moment = () => new Date().toISOString().replace(/\.\d+Z$/, 'Z');

const shelf = 'brackmoor.hand';

/** Whose hand wrote last in this browser. */
export const lastHand = () => localStorage.getItem(shelf) ?? '';
export const keepHand = (hand: string) => localStorage.setItem(shelf, hand.trim());
