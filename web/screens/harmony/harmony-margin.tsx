import type { ToldKeyView } from '#contracts/harmony.ts';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { useOperations } from '../../api/queries.ts';
import { count } from '../../components/text.ts';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep } from '../../state/step.ts';
import { OperationLinks } from '../../step/operation-links.tsx';
import { percent } from './percent.ts';

/** What can be done with chords, by what it is for; the ids of the operations. */
const about: Readonly<Record<string, readonly string[]>> = {
  'Chord line': ['chords.set'],
  Parts: ['chords.apply', 'notes.double', 'notes.share', 'notes.line'],
  Voicings: ['notes.voicing', 'notes.strum', 'notes.legato', 'notes.transpose'],
};

interface Props {
  readonly song: SongView;
  readonly selected: readonly TrackView[];
  readonly keys: readonly ToldKeyView[] | undefined;
}

/** The steps that are about harmony, and the keys of the song. */
export function HarmonyMargin({ song, selected, keys }: Props) {
  const operations = useOperations().data ?? [];
  const { prepare } = usePreparedStep();
  const bars = useScope((s) => s.bars);
  const where = bars
    ? bars.from === bars.to
      ? `bar ${bars.from}`
      : `bars ${bars.from} to ${bars.to}`
    : 'all bars';
  const who =
    selected.length === 0
      ? 'all tracks'
      : selected.length === 1
        ? selected[0]!.name || 'one track'
        : count(selected.length, 'track');
  return (
    <>
      <section aria-label="What to do with chords" className="mb-4">
        <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">Steps</h2>
        <p className="mb-2 text-[12.5px] text-faint">
          On {who}, {where}.
        </p>
        {Object.entries(about).map(([group, ids]) => (
          <OperationLinks
            key={group}
            about={group}
            operations={ids.flatMap((id) => operations.filter((o) => o.id === id))}
            begin={(o) =>
              prepare({
                operation: o.id,
                settings:
                  o.id === 'chords.set' && song.timing.chords.length === 0
                    ? { from: 'what sounds' }
                    : {},
              })
            }
          />
        ))}
      </section>
      <section aria-label="Keys">
        <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">Keys</h2>
        {keys === undefined ? (
          <p className="text-faint">Looking …</p>
        ) : keys.length === 0 ? (
          <p className="text-faint">Nothing with a pitch sounds.</p>
        ) : (
          <ol className="flex flex-col gap-1">
            {keys.map((region) => (
              <KeyRow key={region.fromTick} region={region} />
            ))}
          </ol>
        )}
      </section>
    </>
  );
}

/** A key, where it is, how sure, and which notes are not of it; pressed, its bars are the scope. */
function KeyRow({
  region: { name, sure, section, fromBar, toBar, others, outside },
}: {
  region: ToldKeyView;
}) {
  const span = useScope((s) => s.span);
  return (
    <li>
      <button
        type="button"
        title={`Makes bars ${fromBar} to ${toBar} the scope`}
        className="w-full rounded px-1.5 py-1 text-left hover:bg-paper"
        onClick={() => span({ from: fromBar, to: toBar })}
      >
        <span className="flex items-baseline gap-2">
          <span className="font-medium">{name}</span>
          <span className="text-[12px] text-faint">{percent(sure)} sure</span>
          <span className="num ml-auto text-[12px] text-faint">
            {fromBar}–{toBar}
          </span>
        </span>
        {section !== undefined && <span className="block truncate text-[12px]">{section}</span>}
        {sure < 0.6 && others[0] && (
          <span className="block text-[12px] text-faint">
            or {others[0].name}, {percent(others[0].sure)}
          </span>
        )}
        {outside.length > 0 && (
          <span className="block truncate text-[12px] text-faint">
            outside:{' '}
            {outside
              .slice(0, 5)
              .map((o) => `${shownChord(o.note)} ${o.count}`)
              .join(', ')}
          </span>
        )}
      </button>
    </li>
  );
}
