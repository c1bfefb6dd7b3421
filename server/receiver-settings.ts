import { mergedSettings } from '#core/handoff/receiver/merged.ts';
import { settingsFor } from '#core/handoff/receiver/settings-for.ts';
import { handoffSettings, type HandoffAsked } from '#core/handoff/settings.ts';
import { factsOfView } from '#contracts/song-facts.ts';
import { understood } from './body.ts';
import type { For } from './made-handoffs.ts';
import type { Services } from './services.ts';
import type { SongAt } from './store/song-store.ts';
import { songView } from './views.ts';

/** What is no setting of the files. */
const beside = ['revision', 'preview', 'forecast', 'receiver'];

/** The settings for a receiver, and over them what was said by hand. @param said the body as it was sent */
export async function settingsAt(
  { receivers, views }: Pick<Services, 'receivers' | 'views'>,
  at: SongAt,
  id: string,
  said: object,
): Promise<For> {
  const { receiver } = await receivers.find(id);
  const song = songView(at, await views.show(at), { bytes: 0 }, null, null);
  const byHand = Object.fromEntries(Object.entries(said).filter(([key]) => !beside.includes(key)));
  const asked = mergedSettings(settingsFor(receiver, factsOfView(song)), byHand as HandoffAsked);
  const { name, packed, takes } = receiver;
  return {
    settings: understood(handoffSettings, asked, 'body'),
    receiver: { receiver: { id, name, packed } },
    limits: takes,
  };
}
