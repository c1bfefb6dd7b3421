import type { SongView } from '#contracts/songs.ts';
import type { Handing } from '../../state/handing-off.ts';

/** What a part of the settings is given: the song, what is set, and how to change it. */
export interface Setting {
  readonly song: SongView;
  readonly handing: Handing;
  /** What would be set with nothing set by hand. */
  readonly base: Handing;
  readonly change: (change: Partial<Handing>) => void;
}

/** Changes some of the form. */
export const inForm =
  ({ handing, change }: Setting) =>
  (form: Partial<Handing['form']>): void =>
    change({ form: { ...handing.form, ...form } });

/** Changes some of what leaves. */
export const inTake =
  ({ handing, change }: Setting) =>
  (take: Partial<Handing['take']>): void =>
    change({ take: { ...handing.take, ...take } });

/** Whether some settings are as they are where nothing is said. */
export const alike = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
