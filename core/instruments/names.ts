/** What a name says plays a part. */
export interface Named {
  readonly drums: boolean;
  /** From 0. */
  readonly program: number;
  /** What of the name says it. */
  readonly fragment: string;
}

/**
 * Beginnings of words that name an instrument, with its General MIDI program from 0, −1 for drums: English, German, French, Italian, Spanish, Portuguese, Dutch,
 * Swedish, and the short forms of scores (from memory). The longest that fits counts; two words are written with a blank.
 */
// prettier-ignore
const fragments: Readonly<Record<string, number>> = {
  // Drums
  drum: -1, drm: -1, kit: -1, percus: -1, perc: -1, kick: -1, snare: -1, hihat: -1, 'hi hat': -1, cymbal: -1, crash: -1, ride: -1, tom: -1, clap: -1, shaker: -1, tambour: -1,
  conga: -1, bongo: -1, schlagz: -1, schlagw: -1, batter: -1, bater: -1, slagverk: -1, slagwerk: -1, trummor: -1, trommel: -1, tamburi: -1, cajon: -1, beat: -1, 'bass drum': -1,
  // Basses
  bass: 33, bas: 33, bajo: 33, basse: 33, baixo: 33, 'double bass': 43, contrab: 43, kontrab: 43, contreb: 43, 'acoustic bass': 32, 'upright': 32, 'fretless': 35, 'slap bass': 36,
  'synth bass': 38, 'bass clarinet': 71, 'bass trombone': 57, 'bass guitar': 33, 'basso': 33, 'bass voice': 52, bassoon: 70,
  // Keyboards
  piano: 0, pno: 0, klavier: 0, 'grand': 0, 'e piano': 4, 'electric piano': 4, rhodes: 4, wurl: 4, epiano: 4, 'ep ': 4, harpsi: 6, cembal: 6, clavecin: 6, clavi: 7, celesta: 8, celeste: 8,
  organ: 16, orgel: 16, orgue: 16, organo: 16, hammond: 16, accord: 21, akkord: 21, fisarm: 21, acorde: 21, harmonica: 22, keys: 0, keyboard: 0, chord: 0, akkorde: 0, tasten: 0,
  // Mallets and bells
  glock: 9, 'music box': 10, vibr: 11, vib: 11, marimb: 12, xylo: 13, xilof: 13, 'tubular': 14, bell: 14, glocken: 9, chime: 14, dulcimer: 15, kalimba: 108, 'steel drum': 114,
  // Guitars and other plucked strings
  guit: 27, gtr: 27, git: 27, chitar: 27, 'acoustic guitar': 25, 'nylon': 24, 'steel guitar': 25, 'clean': 27, 'dist': 30, 'overdr': 29, 'lead guitar': 30, 'solo guitar': 30,
  'rhythm guitar': 29, 'jazz guitar': 26, viool: 40, banjo: 105, sitar: 104, koto: 107, mandol: 25, ukul: 24, harp: 46, harfe: 46, arpa: 46, harpe: 46, harpa: 46,
  // Strings and voices
  string: 48, str: 48, streich: 48, cordes: 48, archi: 48, cuerd: 48, corda: 48, strijk: 48, strak: 48, violin: 40, vln: 40, violon: 40, geige: 40, viola: 41, vla: 41, bratsche: 41,
  cello: 42, vlc: 42, 'vc ': 42, violonc: 42, pizz: 45, trem: 44, timp: 47, pauke: 47, choir: 52, chor: 52, coro: 52, choeur: 52, koor: 52, voice: 53, vocal: 53, vox: 53, voc: 53, sing: 53,
  stimme: 53, voix: 53, voz: 53, voce: 53, zang: 53, sopran: 53, tenor: 53, 'ooh': 53, 'aah': 52, orchestra: 48, orch: 48,
  // Brass
  trumpet: 56, trp: 56, tpt: 56, trompet: 56, tromba: 56, trompette: 56, trompete: 56, trombon: 57, tbn: 57, posaun: 57, tuba: 58, horn: 60, corno: 60, cor: 60, trompa: 60, brass: 61, blech: 61,
  cuivre: 61, ottoni: 61, metais: 61, blas: 61, flugel: 56, cornet: 56,
  // Reeds and pipes
  sax: 65, 'alto sax': 65, 'soprano sax': 64, 'tenor sax': 66, 'bari sax': 67, 'baritone sax': 67, oboe: 68, hautb: 68, 'english horn': 69, 'cor anglais': 69, fagot: 70, basson: 70, clarin: 71,
  clar: 71, klarin: 71, picc: 72, flut: 73, flt: 73, floet: 73, 'fl ': 73, flaut: 73, flauta: 73, fluit: 73, flojt: 73, record: 74, blockfl: 74, 'pan flute': 75, panfl: 75, whistle: 78, ocarin: 79, bagp: 109,
  // Synthesisers
  lead: 80, squ: 80, saw: 81, pad: 89, synth: 81, arp: 81, 'fx': 97, sweep: 95, fiddle: 110,
};

/** A name in small letters without accents, its words parted by single blanks, one at the end. */
const plain = (name: string): string =>
  `${name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')
    .trim()} `;

/** All instruments that a name may say, the longest fragment first. */
export function namesIn(name: string): Named[] {
  const said = plain(name);
  return Object.entries(fragments)
    .filter(([fragment]) => said.startsWith(fragment) || said.includes(` ${fragment}`))
    .sort(([a], [b]) => b.length - a.length)
    .map(([fragment, program]) => ({
      drums: program === -1,
      program: Math.max(0, program),
      fragment: fragment.trim(),
    }));
}

/** The instrument that a name says; undefined where it says none. */
export const namedIn = (name: string): Named | undefined => namesIn(name)[0];
