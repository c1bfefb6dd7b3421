import { Pause, Play } from 'lucide-react';
import { urlOf } from '#contracts/addresses.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import { sourceKey } from '#core/operations/sources.ts';
import { mapsOf } from '#core/song/maps.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { call, problemFrom } from '../../api/client.ts';
import { Button } from '../../components/button.tsx';
import { playedOf, theDesk } from '../../desk/the-desk.ts';
import { hush, listenTo, type Heard } from '../../sound/listen.ts';
import type { PlayedSong } from '../../sound/messages.ts';
import { usePlaying } from '../../state/playing.ts';
import type { Held } from '../../intake/bring-model.ts';

/** Plays a source that is yet to be taken, or one track of it. */
export function ListenTo({
  name,
  held,
  track,
  says,
}: {
  name: NamedSource;
  held: Held;
  track?: string;
  says: string;
}) {
  const key = `${sourceKey(name)} ${track ?? ''}`;
  const heard = usePlaying((s) => (s.song === key ? s.state : 'silent'));
  const press = (): void => {
    if (heard !== 'silent') return hush();
    const first = held.tracks.find((t) => t.id === track)?.firstNoteTick ?? 0;
    void listenTo(
      { key, version: key, load: () => loaded(name, track) } satisfies Heard,
      track === undefined ? 0 : Math.max(0, secondsOf(held, first) - 0.1),
    );
  };
  const Icon = heard === 'silent' ? Play : Pause;
  return (
    <Button
      kind="quiet"
      className="!px-1 !py-0.5"
      aria-label={heard === 'silent' ? says : 'Pause'}
      onClick={press}
    >
      <Icon size={13} aria-hidden className={heard === 'loading' ? 'opacity-40' : ''} />
    </Button>
  );
}

function secondsOf(held: Held, tick: number): number {
  return ticksToSeconds(mapsOf(held).tempo, tick);
}

async function loaded(name: NamedSource, track: string | undefined): Promise<PlayedSong> {
  if (!('original' in name))
    return playedOf(await call('getSong', { params: { id: name.song } }), track);
  const response = await fetch(urlOf('getFile', { sha256: name.original }));
  if (!response.ok) throw problemFrom(response.status, await response.text());
  const bytes = new Uint8Array(await response.arrayBuffer());
  return theDesk().playedFile(bytes, name.part, track);
}
