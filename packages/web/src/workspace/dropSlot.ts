/** The slot on the strip that a drop would take, for its frame. */
import { createContext, useContext } from 'react';

export const DropSlotContext = createContext<number | undefined>(undefined);
export const useDropSlot = () => useContext(DropSlotContext);
