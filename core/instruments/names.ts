/** What a name says plays a part. */
export interface Named {
  readonly drums: boolean;
  /** From 0. */
  readonly program: number;
  /** What of the name says it. */
  readonly fragment: string;
}

/**
 * Beginnings of words that name an instrument, with its General MIDI program from 0, −1 for drums: English,
 * German, French, Italian, Spanish, Portuguese, Dutch, Swedish, and the short forms of scores (from memory,
 * where no table is named). The longest that fits counts; two words are written with a blank.
 */
// prettier-ignore
const fragments: Readonly<Record<string, number>> = {
  // Names of five languages as music21's tables of instruments have them (languageExcerpts/instrumentLookup.py, BSD)
  contrabassoon: 70, contrafagot: 70, contrebasson: 70, kontrafagot: 70, 'english horn ': 69, 'corno inglese': 69, 'corno ingles': 69, 'corneta inglesa': 69, 'cuerno ingles': 69, 'englisch horn': 69,
  'cor ang': 69, 'eng hn': 69, 'e hn': 69, 'e h ': 69, hoboe: 68, oboi: 68, ottavin: 72, octavill: 72, 'kleine flote': 72, 'grande flute': 73, 'a becco': 74, pan: 75, pfeif: 78, siffl: 78, silbar: 78, fischio: 78,
  okarina: 79, shakuh: 77, shamis: 106, shehn: 111, dudels: 109, cornemus: 109, cornamus: 109, gaita: 109, sassof: 65, 'bass klarinett': 71, 'bs cl': 71, 'b cl ': 71, 'bass posaun': 57,
  'sopran sax': 64, 'saxophone soprano': 64, 'sassofono soprano': 64, 'saxofono soprano': 64, 'saxo soprano': 64, 'saxophone tenor': 66, 'sassofono tenor': 66, 'saxofono tenor': 66, 'saxo tenor': 66,
  'sassofono baritono': 67, trombe: 56, clarino: 56, 'instrumento de viento metal': 61, lute: 24, laute: 24, luth: 24, liuto: 24, laud: 24, ukel: 24, arpicordo: 6, cimbalo: 6, clavessin: 6, clavecemb: 6, gravicemb: 6, kielfl: 6,
  'arp ': 81, hpschd: 6, salterio: 15, tympanon: 15, hackbrett: 15, dulcem: 15, silofon: 13, xilif: 13, claquebois: 13, echelett: 13, strohfied: 13, 'harmonica de bois': 13, 'jeu de': 9, 'juego de': 9, campanell: 9,
  campanolog: 9, 'organo de campanas': 9, 'orchestra bells': 9, metallofon: 9, lyra: 9, campan: 14, cloche: 14, armonica: 22, 'bullseye gong': -1, gong: -1, 'chau gong': -1, 'tam tam': -1, tamtam: -1,
  castan: -1, castag: -1, kastag: -1, nacchere: -1, cowb: -1, cencerr: -1, campanacc: -1, 'campanelli da mucca': -1, 'campanelli di vacca': -1, 'cloches de vache': -1, 'cloches a vache': -1, jingle: -1, 'jingle bells': -1,
  'sleigh bells': -1, sonagl: -1, cascabel: -1, grelot: -1, sonnaill: -1, marac: -1, ratchet: -1, rattle: -1, ratsch: -1, matraca: -1, carraca: -1, raganell: -1, siren: -1, slapst: -1, whip: -1, frusta: -1, fouet: -1, latigo: -1,
  taiko: -1, 'temple b': -1, woodb: -1, 'wood b': -1, 'wd bl': -1, holzbl: -1, 'bloc de bois': -1, 'blocco di': -1, 'bloques de': -1, triang: -1, dreieck: -1, vibrasl: -1, zil: -1, piatt: -1, platill: -1, platos: -1, cinell: -1,
  rullant: -1, redobl: -1, caja: -1, 'caisse cl': -1, 'caisse r': -1, 'grosse c': -1, 'gran c': -1, grancassa: -1, 'gr cassa': -1, cassa: -1, bombo: -1, tambor: -1, 'tambor de acero': 114, pander: -1,
  'tambour d acier': 114, 'tambour en acier': 114, 'tamburo d acciaio': 114, 'tamburo basco': -1, 'tenor drum': -1, 'ten dr': -1, 'sn dr': -1, 'b dr': -1, agogo: -1, guiro: -1, cabasa: -1, claves: -1, cuica: -1,
  'steel pan': 114, steeldr: 114, 'st dr': 114, 'kettle dr': 47, 'k dr': 47, timbal: 47, timball: 47, tympan: 47, atabal: 47, timbales: -1, mandoline: 25, tumba: -1, charleston: -1,
  chelo: 42, violoncel: 42, vcelle: 42, viole: 41, 'elec org': 16, 'elec b': 33, 'ac b ': 32, 'p org': 19, 'contralto': 53, bariton: 53, baryton: 53, mezzo: 53, canto: 53, chant: 53,
  // Drums
  drum: -1, drm: -1, kit: -1, percus: -1, perc: -1, kick: -1, snare: -1, hihat: -1, 'hi hat': -1, cymbal: -1, crash: -1, ride: -1, tom: -1, clap: -1, shaker: -1, tambour: -1,
  conga: -1, bongo: -1, schlagz: -1, schlagw: -1, batter: -1, bater: -1, slagverk: -1, slagwerk: -1, trummor: -1, trommel: -1, tambur: -1, cajon: -1, beat: -1, 'bass drum': -1,
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

/** Parts of words that name an instrument wherever they stand in one: German, Dutch and Swedish put words together. */
// prettier-ignore
const stems: Readonly<Record<string, number>> = {
  klarinett: 71, bassklarinett: 71, flote: 73, blockflote: 74, schnabelflote: 74, beckflote: 74, querflote: 73, hirtenflote: 75, panflote: 75, pikkolo: 72, piccolo: 72, pickelflote: 72, octavflote: 72,
  saxophon: 65, saxofon: 65, sassofon: 65, altsax: 65, sopransax: 64, tenorsax: 66, baritonsax: 67, posaune: 57, bassposaun: 57, fagott: 70, oboe: 68, gitarre: 27, akustikgitarr: 24,
  stromgitarr: 26, akkordeon: 21, harmonika: 21, mundharmonika: 22, orgel: 16, pfeifenorgel: 19, glocken: 9, rohrenglock: 14, kuhglock: -1, herdenglock: -1, trommel: -1, kesseltrommel: 47,
  stahltrommel: 114, becken: -1, schellen: -1, glockchen: 9, pauke: 47, geige: 40, altgeige: 41, waldhorn: 60, ventilhorn: 60, englischhorn: 69, klavier: 0, harmonium: 20, klavichord: 7,
};

/** Short forms of scores that are whole words: in longer words they mean nothing. */
// prettier-ignore
const shortForms: Readonly<Record<string, number>> = {
  fl: 73, ob: 68, cl: 71, kl: 71, bn: 70, bsn: 70, bssn: 70, fg: 70, fag: 70, cbsn: 70, bcl: 71, bkl: 71, hn: 60, trb: 57, tbn: 57, tmbn: 57, tb: 58, vn: 40, vni: 40, vl: 40, vlon: 40, 
  va: 41, vc: 42, vcl: 42, cb: 43, db: 43, hp: 46, hrp: 46, pf: 0, pfte: 0, pno: 0, clst: 8, clv: 7, clvd: 7, hpd: 6, hpe: 46, glsp: 9, gsp: 9, glck: 9, xyl: 13, xil: 13, kal: 108,
  pk: 47, tamb: -1, trgl: -1, cym: -1, cwb: -1, dr: -1, bd: -1, sd: -1, hh: -1, bj: 105, bjo: 105, mdln: 25, uke: 24, accdn: 21, hmca: 22, whs: 78, 
  pic: 72, mez: 53, mezz: 53, hb: 68, eh: 69,
};

/** A name in small letters without accents, its words parted by single blanks, one at the end. */
const plain = (name: string): string =>
  `${name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')
    .trim()} `;

/** Names that were read lately: a song's are read again after every step. */
const known = new Map<string, readonly Named[]>();
const mostKnown = 5_000;

/** All instruments that a name may say, what most of it says first. */
export function namesIn(name: string): readonly Named[] {
  const had = known.get(name);
  if (had) return had;
  const names = read(name);
  if (known.size >= mostKnown) known.clear();
  known.set(name, names);
  return names;
}

function read(name: string): Named[] {
  const said = plain(name);
  const words = new Set(said.split(' '));
  const found = [
    ...Object.entries(fragments).filter(
      ([part]) => said.startsWith(part) || said.includes(` ${part}`),
    ),
    ...Object.entries(stems).filter(([part]) => said.includes(part)),
    ...Object.entries(shortForms).filter(([word]) => words.has(word)),
  ];
  return found
    .sort(([a], [b]) => b.length - a.length)
    .map(([fragment, program]) => ({
      drums: program === -1,
      program: Math.max(0, program),
      fragment: fragment.trim(),
    }));
}

/** The instrument that a name says; undefined where it says none. */
export const namedIn = (name: string): Named | undefined => namesIn(name)[0];
