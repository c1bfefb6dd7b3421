import { keyNow } from '../../keys/shown.ts';
import { useEffect } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { panic } from '../../sound/listen.ts';
import { askForPorts } from '../../sound/port.ts';
import { hearSong, useSentOut } from '../../state/hearing.ts';
import { moduleName, mostEarly, mostLate, usePorts } from '../../state/ports.ts';
import { useScope } from '../../state/scope.ts';

const none = '';
const ask = ' ask';

/**
 * To which MIDI port a song sounds while it is played: which of its tracks, with the clock or without, and
 * how late.
 */
export function PortWays({ song }: { song: SongView }) {
  const { chosen, ports, asked, clock, exclusives } = usePorts();
  const gone = chosen !== undefined && !ports.some((p) => p.id === chosen);
  // What was chosen the last time is asked for again.
  useEffect(() => {
    if (chosen !== undefined && chosen !== moduleName.id) void askForPorts();
  }, [chosen]);
  const choose = (id: string): void => {
    if (id === ask) void askForPorts();
    else usePorts.setState({ chosen: id === none ? undefined : id });
  };
  return (
    <section aria-label="MIDI port" className="space-y-1.5 border-t border-line pt-2">
      <Choice
        label="MIDI port"
        value={gone ? undefined : (chosen ?? none)}
        placeholder="the one chosen is not there"
        set={choose}
        className="max-w-[200px]"
        options={[
          [none, 'none: heard here'],
          ...ports.map((p) => [p.id, p.name] as const),
          ...(asked === 'not yet' ? [[ask, 'ask the browser for others …'] as const] : []),
        ]}
      />
      {asked in answers && (
        <p className="text-[12px] text-faint">{answers[asked as keyof typeof answers]}</p>
      )}
      {chosen !== undefined && !gone && (
        <>
          <Sent song={song} />
          <Check
            checked={clock}
            set={(to) => usePorts.setState({ clock: to })}
            says={
              song.division.kind === 'smpte'
                ? 'This song counts frames, not quarter notes: it has no clock to send.'
                : undefined
            }
          >
            With clock and song position
          </Check>
          {asked === 'given' && !exclusives && chosen !== moduleName.id && (
            <p className="text-[12px] text-faint">
              The browser was not allowed to send system exclusive messages: they stay here.
            </p>
          )}
          <Late />
          <Button className="!text-[12px]" onClick={panic} aria-keyshortcuts="x">
            Silence everything ({keyNow('silence')})
          </Button>
        </>
      )}
    </section>
  );
}

/** Which tracks sound at the port. */
function Sent({ song }: { song: SongView }) {
  const out = useSentOut(song.id);
  const selected = useScope((s) => s.tracks);
  const tracks = song.tracks.filter((t) => out === 'all' || out.includes(t.id));
  return (
    <p className="flex flex-wrap items-center gap-1.5 text-[12px]">
      <span className="text-faint">
        {out === 'all' || tracks.length === song.tracks.length
          ? 'The whole song goes there.'
          : `${count(tracks.length, 'track')} ${tracks.length === 1 ? 'goes' : 'go'} there, the others are heard here.`}
      </span>
      {out !== 'all' && (
        <Button
          className="!px-1.5 !py-0.5 !text-[12px]"
          onClick={() => hearSong(song.id, { out: 'all' })}
        >
          Whole song
        </Button>
      )}
      <Button
        className="!px-1.5 !py-0.5 !text-[12px]"
        disabled={selected.size === 0}
        title={selected.size === 0 ? 'Select tracks on the sheet first' : undefined}
        onClick={() => hearSong(song.id, { out: [...selected] })}
      >
        {selected.size === 0 ? 'Selected tracks' : count(selected.size, 'selected track')}
      </Button>
    </p>
  );
}

/** Set by ear: until both sound together. */
function Late() {
  const late = usePorts((s) => s.late);
  return (
    <label className="flex items-center justify-between gap-2">
      Sent later, in ms
      <input
        type="number"
        className={`${input} num w-[66px] text-right`}
        min={-mostEarly}
        max={mostLate}
        step={5}
        value={late}
        onChange={(e) =>
          e.target.value !== '' &&
          usePorts.setState({
            late: Math.min(mostLate, Math.max(-mostEarly, Number(e.target.value))),
          })
        }
      />
    </label>
  );
}

/** What the browser said to the question for ports. */
const answers = {
  asking: 'The browser asks you …',
  refused:
    'The browser gives no MIDI ports: allow them for this page in its settings, then load it again.',
  none: 'This browser has no MIDI ports.',
} as const;
