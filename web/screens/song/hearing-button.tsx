import { Ear } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lazy, Suspense } from 'react';
import { Button } from '../../components/button.tsx';
import type { SongView } from '#contracts/songs.ts';
import { useHearing } from '../../state/hearing.ts';
import { usePorts } from '../../state/ports.ts';

/** What can be chosen comes when it is first asked for. */
const Ways = lazy(async () => ({ default: (await import('./ways.tsx')).Ways }));

/**
 * How the song is listened to: how fast, with beats or without, round and round, with which sounds and where.
 * Nothing of it is ever handed off.
 */
export function HearingButton({ song }: { song: SongView }) {
  const { percent, metronome, countIn, atEnd } = useHearing();
  const port = usePorts((s) => s.chosen);
  const otherwise =
    percent !== 100 || metronome || countIn || atEnd !== 'plays on' || port !== undefined;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          kind="quiet"
          className={otherwise ? '!border-amber' : ''}
          aria-label="How it is heard"
          title="How it is heard: speed, beats, loop, sounds, MIDI port"
        >
          <Ear size={16} aria-hidden />
          {percent !== 100 && <span className="num text-[12.5px]">{percent} %</span>}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="How it is heard"
          align="end"
          sideOffset={6}
          className="z-40 max-h-[calc(100vh-70px)] w-[310px] space-y-2.5 overflow-y-auto rounded-lg border border-line bg-sheet px-3.5 py-3 text-[13px] text-ink shadow-lg"
        >
          <Suspense fallback={<p className="text-faint">Opening …</p>}>
            <Ways song={song} />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
