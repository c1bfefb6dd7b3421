import { useOutletContext } from 'react-router';
import type { SongView } from '#contracts/songs.ts';

/** The song whose frame the calling view stands in. */
export const useThisSong = (): SongView => useOutletContext<SongView>();
