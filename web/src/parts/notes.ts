import type { notification } from 'antd';
import { createContext, useContext } from 'react';

type Notes = ReturnType<typeof notification.useNotification>[0];

/** Where short notes are shown: of what was done and may be taken back, and of what was not. */
export const ShownNotes = createContext<Notes | null>(null);

export function useNotes(): Notes {
  const notes = useContext(ShownNotes);
  if (!notes) throw new Error('no place for notes');
  return notes;
}
