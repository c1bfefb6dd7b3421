import type { InstrumentDefinition } from '../definition.ts';
import { sentBy } from '../sent-by.ts';
import { percussionChannel } from '../general-midi.ts';

/** The device that a definition is of, as one text. */
export const deviceOf = ({ maker, model }: InstrumentDefinition): string =>
  [maker, model].filter((words) => words !== '').join(' ') || 'no device';

/** What a document cannot hold of some definitions, in sentences; none where nothing is lost. */
export function lostInMidnam(definitions: readonly InstrumentDefinition[]): string[] {
  const lost: readonly (readonly [string, (d: InstrumentDefinition) => boolean])[] = [
    ['range', (d) => d.playable !== null || d.comfortable !== null],
    ['number of voices', (d) => d.voices !== null],
    ['transposition', (d) => d.transposition !== 0],
    ['clef', (d) => d.clef !== 'treble'],
    ['program it is heard with', (d) => d.sends !== null],
    ['source', (d) => d.source !== ''],
  ];
  return lost.flatMap(([what, has]) => {
    const of = definitions.filter(has);
    return of.length === 0
      ? []
      : [`The ${what} of ${of.length === 1 ? of[0]!.name : `${of.length} instruments`}.`];
  });
}

/**
 * A MIDI name document with some instruments of one device as its patches (MIDI Manufacturers Association,
 * DTD MIDINameDocument 1.0; from memory), in banks, kits in a set of their own on channel 10.
 */
export function writeMidnam(definitions: readonly InstrumentDefinition[]): string {
  const [first] = definitions;
  const sets = [
    { name: 'Instruments', of: definitions.filter((d) => !d.drums), drums: false },
    { name: 'Kits', of: definitions.filter((d) => d.drums), drums: true },
  ].filter((set) => set.of.length > 0);
  const setOf = (channel: number): string =>
    (sets.find((s) => s.drums === (channel === percussionChannel)) ?? sets[0]!).name;
  const lists = new Lists();
  const body = sets.flatMap((set) => channelSet(set, lists));
  return `${[
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://www.midi.org/dtds/MIDINameDocument10.dtd">',
    '<MIDINameDocument>',
    '  <Author/>',
    '  <MasterDeviceNames>',
    `    <Manufacturer>${escaped(first?.maker ?? '')}</Manufacturer>`,
    `    <Model>${escaped(first?.model ?? '')}</Model>`,
    '    <CustomDeviceMode Name="Default">',
    '      <ChannelNameSetAssignments>',
    ...channels.map(
      (c) => `        <ChannelNameSetAssign Channel="${c + 1}" NameSet="${setOf(c)}"/>`,
    ),
    '      </ChannelNameSetAssignments>',
    '    </CustomDeviceMode>',
    ...body.map((line) => `    ${line}`),
    ...lists.lines.map((line) => `    ${line}`),
    '  </MasterDeviceNames>',
    '</MIDINameDocument>',
  ].join('\n')}\n`;
}

const channels = Array.from({ length: 16 }, (_, n) => n);

function channelSet(
  { name, of, drums }: { name: string; of: readonly InstrumentDefinition[]; drums: boolean },
  lists: Lists,
): string[] {
  const banks = new Map<number | null, InstrumentDefinition[]>();
  for (const one of of) {
    const { bank } = sentBy(one);
    banks.set(bank, [...(banks.get(bank) ?? []), one]);
  }
  return [
    `<ChannelNameSet Name="${name}">`,
    '  <AvailableForChannels>',
    ...channels.map(
      (c) =>
        `    <AvailableChannel Channel="${c + 1}" Available="${(c === percussionChannel) === drums}"/>`,
    ),
    '  </AvailableForChannels>',
    ...[...banks].flatMap(([bank, patches]) => [
      `  <PatchBank Name="${bank === null ? 'No bank' : `Bank ${bank >> 7}/${bank & 127}`}">`,
      ...(bank === null
        ? []
        : [
            '    <MIDICommands>',
            `      <ControlChange Control="0" Value="${bank >> 7}"/>`,
            `      <ControlChange Control="32" Value="${bank & 127}"/>`,
            '    </MIDICommands>',
          ]),
      `    <PatchNameList Name="${name} ${bank ?? 'without a bank'}">`,
      ...patches.flatMap((one) => patch(one, lists)),
      '    </PatchNameList>',
      '  </PatchBank>',
    ]),
    '</ChannelNameSet>',
  ];
}

function patch(definition: InstrumentDefinition, lists: Lists): string[] {
  const { name, label, keys, controllers } = definition;
  const { program } = sentBy(definition);
  const uses = [
    ...(keys.length > 0
      ? [`        <UsesNoteNameList Name="${escaped(lists.notes(definition))}"/>`]
      : []),
    ...(controllers.length > 0
      ? [`        <UsesControlNameList Name="${escaped(lists.controls(definition))}"/>`]
      : []),
  ];
  const open = `      <Patch Number="${escaped(label || String(program + 1))}" Name="${escaped(name)}" ProgramChange="${program}"`;
  return uses.length === 0 ? [`${open}/>`] : [`${open}>`, ...uses, '      </Patch>'];
}

/** Lists of names, each written once however many patches use it. */
class Lists {
  readonly lines: string[] = [];
  private readonly named = new Map<string, string>();

  notes({ name, keys }: InstrumentDefinition): string {
    return this.once(JSON.stringify(keys), `Keys of ${name}`, 'NoteNameList', () =>
      keys.map((k) => `  <Note Number="${k.key}" Name="${escaped(k.name)}"/>`),
    );
  }

  controls({ name, controllers }: InstrumentDefinition): string {
    return this.once(JSON.stringify(controllers), `Controllers of ${name}`, 'ControlNameList', () =>
      controllers.flatMap(({ kind, number, name: called, values }) => {
        const open = `  <Control Type="${kind.replace('-', '')}" Number="${number}" Name="${escaped(called)}"`;
        return values.length === 0
          ? [`${open}/>`]
          : [
              `${open}>`,
              '    <Values>',
              '      <ValueNames>',
              ...values.map(
                (v) => `        <Value Number="${v.value}" Name="${escaped(v.name)}"/>`,
              ),
              '      </ValueNames>',
              '    </Values>',
              '  </Control>',
            ];
      }),
    );
  }

  private once(content: string, wish: string, element: string, rows: () => string[]): string {
    const key = `${element} ${content}`;
    const had = this.named.get(key);
    if (had !== undefined) return had;
    const taken = new Set(this.named.values());
    let name = wish;
    for (let n = 2; taken.has(name); n++) name = `${wish} ${n}`;
    this.named.set(key, name);
    this.lines.push(`<${element} Name="${escaped(name)}">`, ...rows(), `</${element}>`);
    return name;
  }
}

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
