/** What a file of JSON says; an empty object where it is none, which the server refuses with what it expects. */
export async function jsonOf(file: File): Promise<unknown> {
  try {
    return JSON.parse(await file.text()) ?? {};
  } catch {
    return {};
  }
}
