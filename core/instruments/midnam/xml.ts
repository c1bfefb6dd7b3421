import { SaxesParser } from 'saxes';
import { ok, refused, type Problem, type Result } from '../../problems/problems.ts';

/** An element of a document, as it is read. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlElement[];
  readonly text: string;
}

/** More than any device has names, and no more than is read at once. */
const mostElements = 300_000;
const mostDepth = 60;

interface Open extends XmlElement {
  readonly children: XmlElement[];
  text: string;
}

/**
 * The root of a well-formed document (XML 1.0). Nothing that a DOCTYPE names is fetched, and no entity is
 * known but the five of XML itself: a document that uses another one is refused, with its line.
 */
export function readXml(bytes: Uint8Array): Result<XmlElement, Problem> {
  let root: Open | undefined;
  let fault: string | undefined;
  let count = 0;
  const open: Open[] = [];
  const parser = new SaxesParser();
  parser.on('error', ({ message }) => (fault ??= inWords(message)));
  parser.on('opentag', ({ name, attributes }) => {
    const element: Open = { name, attributes: { ...attributes }, children: [], text: '' };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
    if (++count > mostElements) fault ??= `more than ${mostElements} elements`;
    if (open.length > mostDepth) fault ??= `elements ${mostDepth} deep in each other`;
  });
  parser.on('text', (text) => {
    const element = open.at(-1);
    if (element) element.text += text;
  });
  parser.on('closetag', () => void open.pop());
  const text = decoded(bytes);
  // In pieces, so that what is wrong at the beginning is not read to its end.
  for (let at = 0; at < text.length && fault === undefined; at += 65_536)
    parser.write(text.slice(at, at + 65_536));
  if (fault === undefined) parser.close();
  return fault !== undefined || !root
    ? refused({ code: 'xml-unreadable', where: {}, why: fault ?? 'nothing' })
    : ok(root);
}

/** What the parser found, so that it can stand in a sentence; it begins with the line and the column. */
const inWords = (message: string): string =>
  message
    .replace(
      /undefined entity\.?$/,
      'an entity of its own; only &amp; &lt; &gt; &quot; and &apos; are taken',
    )
    .replace(/\.$/, '');

/** The text of a document in the encoding that its byte order mark or its first line names; UTF-8 else. */
function decoded(bytes: Uint8Array): string {
  const mark = [bytes[0], bytes[1]].join();
  const first = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const named =
    mark === '255,254'
      ? 'utf-16le'
      : mark === '254,255'
        ? 'utf-16be'
        : (/^<\?xml[^>]*encoding\s*=\s*["']([\w-]+)["']/.exec(first)?.[1] ?? 'utf-8');
  try {
    return new TextDecoder(named).decode(bytes);
  } catch {
    return new TextDecoder().decode(bytes);
  }
}

/** The children of a name. */
export const childrenOf = (element: XmlElement, ...names: string[]): XmlElement[] =>
  element.children.filter((c) => names.includes(c.name));

/** All elements within one, and itself. */
export function* within(element: XmlElement): Generator<XmlElement> {
  yield element;
  for (const child of element.children) yield* within(child);
}
