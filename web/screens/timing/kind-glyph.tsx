import type { RowKind } from './map-rows.ts';

const tag = 'M1 1.5H13L10.5 5L13 8.5H1Z';

/**
 * What a row is, drawn as the tempo line and the strip draw it: leather tags for markers, paper for cue
 * points, straps for sections, handles for tempos.
 */
export function KindGlyph({ kind }: { kind: RowKind }) {
  return (
    <svg
      width="14"
      height="10"
      viewBox="0 0 14 10"
      className="mr-1.5 inline-block stroke-stitch"
      fill="none"
      strokeWidth="1.2"
      aria-hidden
    >
      {kind === 'marker' && <path d={tag} className="fill-line" strokeWidth="0.6" />}
      {kind === 'cue point' && <path d={tag} className="fill-sheet" />}
      {kind === 'text' && <path d="M1 3H12M1 7H8" />}
      {kind === 'section' && <path d="M2 0V10M12 0V10M2 5H12" />}
      {kind === 'tempo' && <circle cx="7" cy="5" r="3.4" className="fill-sheet" />}
      {kind === 'gradual change' && (
        <path d="M1 7H4V10H1ZM10 0H13V3H10ZM4 7L10 3" className="fill-sheet" />
      )}
      {kind === 'meter' && <path d="M2 0V10M7 3V10M12 3V10" />}
      {kind === 'key' && <path d="M5 0V10M9 0V10M2 3.5L12 2.5M2 7.5L12 6.5" />}
    </svg>
  );
}
