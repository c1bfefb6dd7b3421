import { frameRates, framesToSeconds, parseTimecode, type FrameRate } from './timecode.ts';

/** What an edit decision list says of places: each with its line. */
export interface EdlPlace {
  readonly line: number;
  /** Seconds from the start address. */
  readonly seconds: number;
  readonly text: string;
}

export interface EdlReading {
  readonly places: readonly EdlPlace[];
  /** Lines that should say a place and do not, and why. */
  readonly faults: readonly { readonly line: number; readonly why: string }[];
}

const edit =
  /^\s*(\d{1,6})\s+(\S+)\s+(\S+)\s+(\S+)(?:\s+\d{1,4})?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/;
const clipNote = /^\*\s*(?:FROM|TO)\s+CLIP\s+NAME\s*:(.*)$/is;
const locatorNote = /^\*\s*LOC\s*:(.*)$/is;
const color =
  /^(?:RED|GREEN|BLUE|CYAN|MAGENTA|YELLOW|BLACK|WHITE|ORANGE|PINK|PURPLE|ROSE|SKY|MINT|LEMON|SAND|COCOA|CREAM|FUCHSIA|LAVENDER)(?=\s)/i;

/** The clip name that a note gives; undefined of every other line. */
const clipNameOf = (content: string): string | undefined =>
  clipNote.exec(content)?.[1]?.trim() || undefined;

/** Address and name of a locator, its colour left out; undefined of every other line. */
function locatorOf(content: string): { address: string; name: string } | undefined {
  const said = locatorNote.exec(content)?.[1]?.trim();
  if (!said) return undefined;
  const address = /^\S+/.exec(said)![0];
  const rest = `${said.slice(address.length).trimStart()} `;
  const name = rest.slice(color.exec(rest)?.[0].length ?? 0).trim();
  return { address, name: name || 'Locator' };
}

const countMode = /^\s*FCM\s*:\s*(NON[- ])?DROP/i;

/** Whether an edit is of the picture: V, or both as B, AA/V … (CMX 3600; from memory). */
const isPicture = (track: string | undefined): boolean =>
  track !== undefined && /V|^B$/i.test(track);

/** A list counts drop-frame and the song does not, or the other way about: its addresses mean other frames. */
function otherCount(line: number, drop: boolean, rate: FrameRate): { line: number; why: string }[] {
  if (drop === frameRates[rate].drop > 0 || frameRates[rate].count !== 30) return [];
  return [
    {
      line,
      why: `the list counts ${drop ? 'drop-frame' : 'every frame'}, the song ${drop ? 'every frame' : 'drop-frame'} (${rate}): set its timecode to the list’s rate, else its places drift`,
    },
  ];
}

/**
 * What of an edit's timecodes cannot be, but for its record in, which is read as a place. Sources may run at any rate, or
 * count film by feet: of them only minutes and seconds above 59 and hours above 23 are wrong.
 */
function impossibleIn(cut: RegExpExecArray, rate: FrameRate): string[] {
  const [sourceIn, sourceOut, , recordOut] = cut.slice(5) as [string, string, string, string];
  const ofSource = [sourceIn, sourceOut].filter((address) => {
    const [, h, m, s] = /^(\d{1,2})[:.](\d{1,2})[:.](\d{1,2})[:;.]\d{1,3}$/.exec(address) ?? [];
    return Number(h) > 23 || Number(m) > 59 || Number(s) > 59;
  });
  return [
    ...ofSource.map((address) => `${address} is no timecode`),
    ...(parseTimecode(recordOut, rate) === undefined && recordOut !== cut[7]
      ? [`${recordOut} is no timecode at ${rate} frames a second`]
      : []),
  ];
}

/**
 * Places of an edit decision list in the CMX 3600 layout: the record-in timecode of every edit of the
 * picture, or of all where none is, named by the clip name that follows it or else by its reel, and
 * locators. `start` is the address, in frames, that stands for 0 seconds. Lines that cannot be read are
 * named; the others are taken. The layout is from memory: event, reel, track, transition, source in and
 * out, record in and out.
 */
export function readEdl(text: string, rate: FrameRate, start: number): EdlReading {
  const places: { line: number; seconds: number; text: string }[] = [];
  const faults: { line: number; why: string }[] = [];
  let named: { line: number; seconds: number; text: string } | undefined;
  const lines = text.split(/\r\n|\r|\n/);
  const pictures = lines.some((content) => isPicture(edit.exec(content)?.[3]));
  const take = (line: number, address: string, name: string): typeof named => {
    const frames = parseTimecode(address, rate);
    if (frames === undefined)
      faults.push({ line, why: `${address} is no timecode at ${rate} frames a second` });
    else if (frames < start)
      faults.push({ line, why: `${address} lies before the start timecode of the song` });
    else {
      const place = { line, seconds: framesToSeconds(frames - start, rate), text: name };
      places.push(place);
      return place;
    }
    return undefined;
  };
  lines.forEach((content, i) => {
    const line = i + 1;
    const cut = edit.exec(content);
    const name = clipNameOf(content);
    const locator = locatorOf(content);
    const fcm = countMode.exec(content);
    if (fcm) faults.push(...otherCount(line, fcm[1] === undefined, rate));
    // A cut is said once a track, and where one picture dissolves into the next twice: the first time it has no length.
    else if (cut && pictures && !isPicture(cut[3])) named = undefined;
    else if (cut) {
      faults.push(...impossibleIn(cut, rate).map((why) => ({ line, why })));
      const hasLength = cut[7] !== cut[8] || parseTimecode(cut[7]!, rate) === undefined;
      named = hasLength ? take(line, cut[7]!, cut[2]!) : undefined;
    } else if (name && named) named.text = name;
    else if (locator) take(line, locator.address, locator.name);
    else if (/^\s*\d{3,6}\s/.test(content))
      faults.push({ line, why: 'an edit without its four timecodes' });
  });
  return { places, faults };
}
