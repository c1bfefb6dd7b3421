/** A sentence about files, and how many of them it is about. */
export interface Said {
  readonly text: string;
  readonly files: number;
}

/** What is said of all files, then what is said of some, each sentence once. */
export function leftOut(
  notes: readonly string[],
  files: readonly { readonly notes?: readonly string[] | undefined }[],
): Said[] {
  const counts = new Map<string, number>();
  for (const file of files)
    for (const note of new Set(file.notes)) counts.set(note, (counts.get(note) ?? 0) + 1);
  return [
    ...notes.map((text) => ({ text, files: files.length })),
    ...[...counts].map(([text, n]) => ({ text, files: n })),
  ];
}
