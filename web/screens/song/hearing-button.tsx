import { Ear } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lazy, Suspense } from 'react';
import { Button } from '../../components/button.tsx';
import { useHearing } from '../../state/hearing.ts';

/** What can be chosen comes when it is first asked for. */
const Ways = lazy(async () => ({ default: (await import('./ways.tsx')).Ways }));

/** How the song is listened to: how fast, with beats or without, round and round. Nothing of it is ever sent. */
export function HearingButton() {
  const { percent, metronome, countIn, loops } = useHearing();
  const otherwise = percent !== 100 || metronome || countIn || loops;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          kind="quiet"
          className={otherwise ? '!border-amber' : ''}
          aria-label="How it is heard"
          title="How it is heard: speed, beats, loop"
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
          className="z-40 w-[270px] space-y-2 rounded-lg border border-line bg-sheet px-3.5 py-3 text-[13px] text-ink shadow-lg"
        >
          <Suspense fallback={<p className="text-faint">Opening …</p>}>
            <Ways />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
