import { ok, refused, type Problem, type Result } from '../../problems/problems.ts';
import { definitionSchema, mostInstruments, type InstrumentDefinition } from '../definition.ts';
import { percussionChannel } from '../general-midi.ts';
import { namedIn } from '../names.ts';
import { childrenOf, readXml, within, type XmlElement } from './xml.ts';

/** Instruments of a MIDI name document, and what of it has no place in a definition. */
export interface MidnamRead {
  readonly instruments: readonly InstrumentDefinition[];
  /** In sentences. */
  readonly told: readonly string[];
}

/** Elements that are understood, or that only hold others. */
const understood: ReadonlySet<string> = new Set(
  'MIDINameDocument Author MasterDeviceNames ExtendingDeviceNames StandardDeviceMode Manufacturer Model CustomDeviceMode ChannelNameSetAssignments ChannelNameSetAssign ChannelNameSet AvailableForChannels AvailableChannel PatchBank MIDICommands PatchMIDICommands ControlChange ProgramChange PatchNameList UsesPatchNameList Patch NoteNameList UsesNoteNameList NoteGroup Note ControlNameList UsesControlNameList Control Values ValueNameList ValueNames UsesValueNameList Value'.split(
    ' ',
  ),
);
const devices = ['MasterDeviceNames', 'ExtendingDeviceNames', 'StandardDeviceMode'];

/**
 * The instruments that a MIDI name document names (MIDI Manufacturers Association, DTD MIDINameDocument
 * 1.0; from memory): each of its patches, with its bank and program, the names of its notes and of its
 * controllers.
 */
export function readMidnam(bytes: Uint8Array): Result<MidnamRead, Problem> {
  const xml = readXml(bytes);
  if (!xml.ok) return xml;
  const root = xml.value;
  if (root.name !== 'MIDINameDocument')
    return refused({
      code: 'instruments-unreadable',
      where: {},
      why: `its first element is ${root.name.slice(0, 60)}`,
    });
  const count = [...within(root)].filter((e) => e.name === 'Patch').length;
  if (count > mostInstruments)
    return tooMany(`it names ${count} patches; at most ${mostInstruments} are taken at once`);
  const told: string[] = [];
  const budget = { names: mostNames };
  const instruments = childrenOf(root, ...devices).flatMap((device) =>
    ofDevice(device, told, budget),
  );
  if (budget.names < 0)
    return tooMany(`its patches have more than ${mostNames} names of keys, controllers and values`);
  if (instruments.length === 0)
    return refused({ code: 'instruments-unreadable', where: {}, why: 'it names no patch' });
  return ok({ instruments, told: [...told, ...leftOut(root)] });
}

/** Lists are written once and used by many patches, each of which gets its own copy: together no more than this. */
const mostNames = 500_000;

const tooMany = (why: string): Result<MidnamRead, Problem> =>
  refused({ code: 'instruments-unreadable', where: {}, why });

/** What is not understood, by its name. */
function leftOut(root: XmlElement): string[] {
  const counts = new Map<string, number>();
  for (const { name } of within(root))
    if (!understood.has(name)) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].map(
    ([name, n]) => `${n} ${name}: a definition has no place for ${n === 1 ? 'it' : 'them'}.`,
  );
}

/** Lists of names that others use by theirs. */
interface Lists {
  readonly notes: ReadonlyMap<string, XmlElement>;
  readonly controls: ReadonlyMap<string, XmlElement>;
  readonly patches: ReadonlyMap<string, XmlElement>;
  readonly values: ReadonlyMap<string, XmlElement>;
}

function listsOf(device: XmlElement): Lists {
  const named = (...names: string[]): Map<string, XmlElement> =>
    new Map(
      [...within(device)]
        .filter((e) => names.includes(e.name) && e.attributes.Name !== undefined)
        .map((e) => [e.attributes.Name!, e]),
    );
  return {
    notes: named('NoteNameList'),
    controls: named('ControlNameList'),
    patches: named('PatchNameList'),
    values: named('ValueNameList', 'ValueNames'),
  };
}

function ofDevice(
  device: XmlElement,
  told: string[],
  budget: { names: number },
): InstrumentDefinition[] {
  const text = (name: string): string => childrenOf(device, name)[0]?.text.trim() ?? '';
  const models = childrenOf(device, 'Model').map((m) => m.text.trim());
  if (models.length > 1)
    told.push(`It is for ${models.length} models: ${models.join(', ')}. The first is kept.`);
  const at = { maker: text('Manufacturer'), model: models[0] ?? device.attributes.Name ?? '' };
  const lists = listsOf(device);
  return childrenOf(device, 'ChannelNameSet').flatMap((set) => {
    const drums = isForDrums(set, device);
    return childrenOf(set, 'PatchBank').flatMap((bank) =>
      patchesOf(bank, lists).flatMap((patch) => {
        if (budget.names < 0) return [];
        const made = ofPatch({ patch, bank, set, device, lists }, { ...at, drums });
        if (typeof made !== 'string') {
          budget.names -= namesOf(made);
          return [made];
        }
        told.push(made);
        return [];
      }),
    );
  });
}

const namesOf = ({ keys, controllers }: InstrumentDefinition): number =>
  controllers.reduce((sum, c) => sum + 1 + c.values.length, keys.length);

/** Patches that stand in a bank, or in the lists it uses. */
function patchesOf(bank: XmlElement, { patches }: Lists): XmlElement[] {
  const lists = [
    ...childrenOf(bank, 'PatchNameList'),
    ...childrenOf(bank, 'UsesPatchNameList').flatMap(
      (use) => patches.get(use.attributes.Name!) ?? [],
    ),
  ];
  return lists.flatMap((list) => childrenOf(list, 'Patch'));
}

interface PatchIn {
  readonly patch: XmlElement;
  readonly bank: XmlElement;
  readonly set: XmlElement;
  readonly device: XmlElement;
  readonly lists: Lists;
}

/** The definition of a patch, or why it is none. */
function ofPatch(
  { patch, bank, set, device, lists }: PatchIn,
  at: { readonly maker: string; readonly model: string; readonly drums: boolean },
): InstrumentDefinition | string {
  const name = patch.attributes.Name?.trim() ?? '';
  const commands = [
    ...childrenOf(bank, 'MIDICommands').flatMap((c) => c.children),
    ...childrenOf(patch, 'PatchMIDICommands').flatMap((c) => c.children),
  ];
  const program =
    numberOf(patch.attributes.ProgramChange) ??
    numberOf(commands.findLast((c) => c.name === 'ProgramChange')?.attributes.Number);
  const nearest = (...names: string[]): XmlElement | undefined =>
    [patch, bank, set].map((e) => childrenOf(e, ...names)[0]).find((e) => e !== undefined);
  const notes = nearest('NoteNameList', 'UsesNoteNameList');
  const controls =
    nearest('ControlNameList', 'UsesControlNameList') ??
    childrenOf(device, 'UsesControlNameList')[0];
  const guess = namedIn(name);
  const made = definitionSchema.safeParse({
    name,
    ...at,
    label: patch.attributes.Number ?? '',
    program: guess && !guess.drums ? guess.program + 1 : 1,
    sends: program === undefined ? null : { program: program + 1, bank: bankOf(commands) },
    keys: notes ? keysIn(usedOr(notes, lists.notes)) : [],
    controllers: controls ? controllersIn(usedOr(controls, lists.controls), lists) : [],
  });
  if (made.success) return made.data;
  const issue = made.error.issues[0]!;
  return `Patch ${patch.attributes.Number ?? ''} “${name.slice(0, 60)}” is left out: ${issue.path.join('.')}: ${issue.message}`;
}

/** A list that stands there, or the one it uses by name; an empty one where there is none of that name. */
const usedOr = (
  element: XmlElement,
  lists: ReadonlyMap<string, XmlElement>,
): readonly XmlElement[] =>
  element.name.startsWith('Uses')
    ? (lists.get(element.attributes.Name ?? '')?.children ?? [])
    : element.children;

const numberOf = (text: string | undefined): number | undefined =>
  text !== undefined && /^\s*\d+\s*$/.test(text) ? Number(text) : undefined;

/** The bank that some commands choose; null where they choose none. */
function bankOf(commands: readonly XmlElement[]): number | null {
  const said = (controller: number): number | undefined =>
    numberOf(
      commands.findLast(
        (c) => c.name === 'ControlChange' && numberOf(c.attributes.Control) === controller,
      )?.attributes.Value,
    );
  const [coarse, fine] = [said(0), said(32)];
  return coarse === undefined && fine === undefined ? null : (coarse ?? 0) * 128 + (fine ?? 0);
}

/** Whether a set of names is for channel 10 alone. */
function isForDrums(set: XmlElement, device: XmlElement): boolean {
  const available = [...within(set)]
    .filter(
      (e) => e.name === 'AvailableChannel' && /^(true|1|yes)$/i.test(e.attributes.Available ?? ''),
    )
    .map((e) => numberOf(e.attributes.Channel));
  const assigned = [...within(device)]
    .filter(
      (e) => e.name === 'ChannelNameSetAssign' && e.attributes.NameSet === set.attributes.Name,
    )
    .map((e) => numberOf(e.attributes.Channel));
  const channels = available.length > 0 ? available : assigned;
  return channels.length > 0 && channels.every((c) => c === percussionChannel + 1);
}

/** What keys are called; groups only order them. The first name of a key counts. */
function keysIn(children: readonly XmlElement[]): { key: number; name: string }[] {
  const keys = new Map<number, string>();
  for (const element of children.flatMap((c) => [...within(c)])) {
    const key = element.name === 'Note' ? numberOf(element.attributes.Number) : undefined;
    const name = element.attributes.Name?.trim();
    if (key !== undefined && key < 128 && name && !keys.has(key)) keys.set(key, name);
  }
  return [...keys].map(([key, name]) => ({ key, name }));
}

const kinds = { '7bit': '7-bit', '14bit': '14-bit', RPN: 'RPN', NRPN: 'NRPN' } as const;

function controllersIn(children: readonly XmlElement[], lists: Lists) {
  const found = children
    .filter((c) => c.name === 'Control')
    .flatMap((c) => {
      const number = numberOf(c.attributes.Number);
      const name = c.attributes.Name?.trim();
      const kind = kinds[(c.attributes.Type ?? '7bit') as keyof typeof kinds] ?? '7-bit';
      return number === undefined || !name
        ? []
        : [{ kind, number, name, values: valuesIn(c, lists) }];
    });
  return [...new Map(found.map((c) => [`${c.kind} ${c.number}`, c])).values()];
}

function valuesIn(control: XmlElement, { values }: Lists): { value: number; name: string }[] {
  const lists = [...within(control)].flatMap((e) =>
    e.name === 'UsesValueNameList' ? (values.get(e.attributes.Name ?? '')?.children ?? []) : [e],
  );
  return lists.flatMap((e) => {
    const value = e.name === 'Value' ? numberOf(e.attributes.Number) : undefined;
    const name = e.attributes.Name?.trim();
    return value === undefined || !name ? [] : [{ value, name }];
  });
}

/** A definition as a document has it now, with what such a document cannot hold as it was. */
export const laidOver = (
  before: InstrumentDefinition,
  { maker, model, label, name, drums, sends, controllers, keys }: InstrumentDefinition,
): InstrumentDefinition => ({
  ...before,
  maker,
  model,
  label,
  name,
  drums,
  sends,
  controllers,
  keys,
});
