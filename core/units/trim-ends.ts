/** A text without the given characters at its end; its cost grows with its length alone. */
export function trimEnd(text: string, characters: string): string {
  let end = text.length;
  while (end > 0 && characters.includes(text[end - 1]!)) end--;
  return text.slice(0, end);
}

/** A text without the given characters at its beginning and its end. */
export function trimEnds(text: string, characters: string): string {
  let start = 0;
  while (start < text.length && characters.includes(text[start]!)) start++;
  return trimEnd(text.slice(start), characters);
}
