import type { ApiError } from '#contracts/errors.ts';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { SongRow, SongView, Uploaded } from '#contracts/songs.ts';
import type { StepResultView } from '#contracts/steps.ts';

export interface Answer<T> {
  readonly status: number;
  readonly body: T;
  readonly headers: Headers;
}

/** A small client of the API, as a script would be. */
export class Api {
  readonly address: string;

  constructor(address: string) {
    this.address = address;
  }

  async send<T>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const json = body === undefined ? {} : { 'content-type': 'application/json' };
    const response = await fetch(this.address + path, {
      method,
      headers: { ...json, ...headers },
      ...(body === undefined
        ? {}
        : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    return {
      status: response.status,
      body: (text ? JSON.parse(text) : undefined) as T,
      headers: response.headers,
    };
  }

  async upload(
    ...files: { name: string; bytes: Uint8Array }[]
  ): Promise<Answer<Uploaded & ApiError>> {
    const form = new FormData();
    for (const f of files) form.append('file', new Blob([f.bytes.slice().buffer]), f.name);
    const response = await fetch(`${this.address}/api/songs`, { method: 'POST', body: form });
    return {
      status: response.status,
      body: (await response.json()) as Uploaded & ApiError,
      headers: response.headers,
    };
  }

  async bring(name: string, bytes: Uint8Array): Promise<SongRow> {
    const { status, body } = await this.upload({ name, bytes });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body.songs[0]!;
  }

  song = async (id: string): Promise<SongView> =>
    (await this.send<SongView>('GET', `/api/songs/${id}`)).body;

  step = (
    id: string,
    revision: number,
    operation: string,
    settings: object = {},
    tracks: string[] | 'all' = 'all',
    preview = false,
  ) =>
    this.send<StepResultView & ApiError>('POST', `/api/songs/${id}/steps`, {
      operation,
      settings,
      scope: { tracks },
      revision,
      preview,
    });

  async bytes(path: string): Promise<Uint8Array> {
    const response = await fetch(this.address + path);
    if (!response.ok) throw new Error(`${path}: ${response.status}`);
    return new Uint8Array(await response.arrayBuffer());
  }

  /** Makes a handoff and gets its file. */
  async handOff(
    id: string,
    format: 'as-received' | 0 | 1 = 'as-received',
  ): Promise<{ handoff: HandoffView; bytes: Uint8Array }> {
    const { status, body } = await this.send<HandoffView>('POST', `/api/songs/${id}/handoffs`, {
      format,
    });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return {
      handoff: body,
      bytes: await this.bytes(
        `/api/handoffs/${body.id}/files/${encodeURIComponent(body.files[0]!.name)}`,
      ),
    };
  }
}
