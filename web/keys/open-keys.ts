import { create } from 'zustand';

/** Whether the sheet of keys is open. */
export const useKeysOpen = create<{ open: boolean }>(() => ({ open: false }));

export const openKeys = (open = true): void => useKeysOpen.setState({ open });
