import { programNames } from '#core/instruments/general-midi.ts';
import type { ModuleChannel } from '#core/playing/sound-module.ts';
import { useModule } from '../../sound/module.ts';

/** What the sound module that comes along has received: each channel as it stands, and the clock. */
export function ModulePanel() {
  const { module } = useModule();
  // It changes in itself: how often is what makes this look again.
  useModule((s) => s.changes);
  const { tempo, sixteenth, runs, received, refused } = module;
  return (
    <section aria-label="Sound module" className="border-b border-line px-3 py-1.5">
      <p className="num mb-1 flex flex-wrap gap-x-4 text-[12px] text-faint">
        <span className="font-sans font-semibold text-ink">Sound module</span>
        <span data-testid="module-clock">
          {runs ? 'runs' : 'stands'} at sixteenth {sixteenth.toLocaleString('en')}
        </span>
        <span data-testid="module-tempo">
          {tempo === undefined ? 'no clock' : `${tempo.toFixed(1)} quarter notes a minute`}
        </span>
        <span data-testid="module-received">
          {received.toLocaleString('en')} messages{refused > 0 && `, ${refused} of them none`}
        </span>
      </p>
      <ol className="grid grid-cols-16 gap-1">
        {module.channels.map((channel, n) => (
          <Channel key={n} n={n} channel={channel} />
        ))}
      </ol>
    </section>
  );
}

function Channel({ n, channel }: { n: number; channel: ModuleChannel }) {
  const { program, bank, volume, expression, bend, damper, keys } = channel;
  const drums = n === 9;
  const name = drums ? 'drums' : programNames[program];
  return (
    <li
      className={`min-w-0 rounded border px-1 py-0.5 text-[11px] ${keys.length > 0 ? 'border-amber bg-amber-soft' : 'border-line'}`}
      title={`Channel ${n + 1}: program ${program + 1}, bank ${bank.join('.')}, volume ${volume}, expression ${expression}, bend ${bend}${damper ? ', damper held' : ''}`}
    >
      <span className="num flex justify-between">
        <span className="text-faint">{n + 1}</span>
        {keys.length > 0 && <span>{keys.length}</span>}
      </span>
      <span className="block truncate">{name}</span>
      <span
        aria-hidden
        className="mt-0.5 block h-[3px] rounded bg-stitch"
        style={{ width: `${(volume * expression * 100) / 127 / 127}%` }}
      />
    </li>
  );
}
