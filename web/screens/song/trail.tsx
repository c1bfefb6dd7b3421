import {
  AudioLines,
  Clock,
  FileInput,
  History,
  Library,
  List,
  ListOrdered,
  Music2,
  Piano,
  Rows3,
  Send,
  type LucideIcon,
} from 'lucide-react';
import { NavLink } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { useFindings } from '../../api/queries.ts';
import { count } from '../../components/text.ts';

function timingNote({ timing }: SongView): string {
  const meters = new Set(timing.meters.map((m) => `${m.numerator}/${m.denominator}`));
  return timing.tempoCount > 1
    ? count(timing.tempoCount, 'tempo')
    : meters.size > 1
      ? count(meters.size, 'meter')
      : `${timing.meters[0]?.numerator ?? 4}/${timing.meters[0]?.denominator ?? 4}`;
}

function lanesNote(song: SongView): string {
  const lanes = song.tracks.reduce(
    (n, t) =>
      n + t.controllers.length + Number(t.counts.pitchBend > 0) + Number(t.counts.pressure > 0),
    0,
  );
  const parked = song.tracks.reduce((n, t) => n + (t.parked?.length ?? 0), 0);
  return parked > 0 ? `${parked} of ${lanes} parked` : count(lanes, 'lane');
}

const eventsNote = ({ tracks }: SongView): string =>
  count(
    tracks.reduce((n, t) => n + t.events, 0),
    'event',
  );

interface Place {
  /** Below the song's address. */
  readonly to: string;
  readonly name: string;
  readonly Icon: LucideIcon;
  readonly note: string;
  /** There is something left to do. */
  readonly open?: boolean;
}

/** Where work is done on a song, in the order in which it is done, with what each place holds for this one. */
function placesOf(song: SongView, findings: number): readonly Place[] {
  return [
    {
      to: 'in',
      name: 'Bring in',
      Icon: FileInput,
      note: song.problems > 0 ? count(song.problems, 'fault') : 'no fault',
      open: song.problems > 0,
    },
    {
      to: '',
      name: 'Look over',
      Icon: Rows3,
      note: findings > 0 ? count(findings, 'finding') : count(song.tracks.length, 'track'),
      open: findings > 0,
    },
    { to: 'notes', name: 'Notes', Icon: Music2, note: count(song.notes, 'note') },
    { to: 'lanes', name: 'Lanes', Icon: AudioLines, note: lanesNote(song) },
    {
      to: 'events',
      name: 'Event list',
      Icon: List,
      note: eventsNote(song),
    },
    {
      to: 'timing',
      name: 'Timing',
      Icon: Clock,
      note: timingNote(song),
      open: song.timing.tempoCount > 200,
    },
    {
      to: 'harmony',
      name: 'Harmony',
      Icon: Piano,
      note:
        song.timing.chords.length > 0 ? count(song.timing.chords.length, 'chord') : 'chords, keys',
    },
    {
      to: 'arrange',
      name: 'Arrange',
      Icon: ListOrdered,
      note:
        song.timing.sections.length > 0
          ? count(song.timing.sections.length, 'section')
          : count(song.timing.bars, 'bar'),
    },
    { to: 'shelf', name: 'Shelf', Icon: Library, note: 'clips' },
    { to: 'out', name: 'Hand off', Icon: Send, note: 'files and slip' },
    {
      to: 'history',
      name: 'History',
      Icon: History,
      note: song.steps === 0 ? 'as received' : count(song.steps, 'step'),
    },
  ];
}

/** The order of work: each in one line, so that nothing moves when a number comes. */
export function Trail({ song }: { song: SongView }) {
  const findings =
    useFindings(song.id, song.revision).data?.findings.filter((f) => !f.leftAlone).length ?? 0;
  return (
    <nav
      aria-label="Trail"
      className="row-span-2 min-h-0 overflow-y-auto border-r border-line py-3"
    >
      <ol className="relative flex flex-col gap-1 before:absolute before:top-5 before:bottom-5 before:left-[28px] before:border-l-2 before:border-dashed before:border-line xl:before:left-[24px]">
        {placesOf(song, findings).map(({ to, name, Icon, note, open }) => (
          <li key={name}>
            <NavLink
              end
              to={to === '' ? `/songs/${song.id}` : `/songs/${song.id}/${to}`}
              title={`${name}: ${note}`}
              className="group relative flex flex-col items-center gap-x-2 px-1 py-1.5 xl:flex-row xl:items-start xl:pr-1 xl:pl-3"
            >
              <span className="z-10 grid size-6 shrink-0 place-items-center rounded-full border border-line bg-paper group-aria-[current=page]:border-amber group-aria-[current=page]:bg-amber group-aria-[current=page]:text-on-amber">
                <Icon size={13} aria-hidden />
              </span>
              <span className="min-w-0 text-center xl:text-left">
                <span className="block text-[11px] group-aria-[current=page]:font-semibold xl:text-[13px]">
                  {name}
                </span>
                <span
                  className={`hidden truncate text-[11.5px] leading-tight xl:block ${open ? 'text-ochre' : 'text-faint'}`}
                >
                  {note}
                </span>
              </span>
            </NavLink>
          </li>
        ))}
      </ol>
    </nav>
  );
}
