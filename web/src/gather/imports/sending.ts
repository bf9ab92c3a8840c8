import { api, ask, Refusal, send, type Schemas } from '@/api/client';

/** How much of a file goes in one request. */
const piece = 4 * 1024 * 1024;

/** After this, in ms, a piece that did not arrive is sent again. */
const pause = 2000;

/** A file that this page is sending, or is about to. */
export interface Outbound {
  studyId: number;
  file: File;
  /** Its import on the server, once announced. */
  key: string | null;
  sent: number;
  /** Why it was not taken; it is sent no more. */
  refused: string | null;
}

/**
 * Sends files one after the other, in pieces, while people move about in the application. A piece that is lost is sent again; what has arrived is not.
 */
class Sending {
  private files: readonly Outbound[] = [];
  private readonly listeners = new Set<() => void>();
  private busy = false;

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly now = () => this.files;

  /** Takes files on, and tells after each that it was announced. */
  async add(
    studyId: number,
    chosen: readonly File[],
    given: Pick<Schemas['NewFile'], 'kind' | 'folderId' | 'attachment'>,
    announced: () => void,
  ): Promise<void> {
    this.files = [...this.files, ...chosen.map((file) => ({ studyId, file, key: null, sent: 0, refused: null }))];
    this.tell();
    // Files that are given at once are undone at once.
    const batch = crypto.randomUUID();
    for (const file of chosen) {
      try {
        const body = { batch, name: file.name, bytes: file.size, modified: String(file.lastModified), ...given };
        const taken = await this.untilHeard(() => ask(api.POST('/api/studies/{studyId}/imports', { params: { path: { studyId } }, body })));
        if (taken.state === 'sending') this.change(file, { key: taken.key, sent: taken.received });
        else this.forget(file);
      } catch (problem) {
        this.change(file, { refused: (problem as Error).message });
      }
      announced();
      void this.run(announced);
    }
  }

  /** Sends a file no more. */
  drop(key: string) {
    this.files = this.files.filter((f) => f.key !== key);
    this.tell();
  }

  /** Puts away what was not taken. */
  clear(studyId: number) {
    this.files = this.files.filter((f) => f.studyId !== studyId || f.refused === null);
    this.tell();
  }

  private async run(arrived: () => void) {
    if (this.busy) return;
    this.busy = true;
    try {
      for (let next = this.next(); next; next = this.next()) await this.sendAll(next, arrived);
    } finally {
      this.busy = false;
    }
  }

  private next = () => this.files.find((f) => f.key !== null && f.refused === null);

  private async sendAll({ file, key, studyId }: Outbound, arrived: () => void) {
    for (let one = this.of(file); one; one = this.of(file)) {
      const from = one.sent;
      try {
        const { received, state } = await this.untilHeard(() => sendPiece(studyId, key!, from, file));
        if (state !== 'sending') {
          this.forget(file);
          arrived();
        } else this.change(file, { sent: received });
      } catch (problem) {
        this.change(file, { refused: (problem as Error).message });
        return;
      }
    }
  }

  /** Tries until there is an answer, whatever it says. */
  private async untilHeard<T>(ask: () => Promise<T>): Promise<T> {
    for (;;) {
      try {
        return await ask();
      } catch (problem) {
        if (!(problem instanceof Refusal) || problem.status !== 0) throw problem;
        await new Promise((done) => setTimeout(done, pause));
      }
    }
  }

  private of = (file: File) => this.files.find((f) => f.file === file);

  private forget(file: File) {
    this.files = this.files.filter((f) => f.file !== file);
    this.tell();
  }

  private change(file: File, to: Partial<Outbound>) {
    this.files = this.files.map((f) => (f.file === file ? { ...f, ...to } : f));
    this.tell();
  }

  private tell() {
    for (const listener of this.listeners) listener();
  }
}

async function sendPiece(studyId: number, key: string, from: number, file: File): Promise<Schemas['Import']> {
  const body = await file
    .slice(from, from + piece)
    .arrayBuffer()
    .catch(() => {
      throw new Refusal('The file cannot be read any more; it was moved or changed. Choose it again.', 400);
    });
  const request = new Request(`/api/studies/${studyId}/imports/${key}/bytes?from=${from}`, {
    method: 'PUT',
    body,
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  return ask(
    send(request).then(async (response) => ({
      response,
      ...(response.ok ? { data: (await response.json()) as Schemas['Import'] } : { error: (await response.json()) as unknown }),
    })),
  );
}

export const sending = new Sending();

/** The files in what was dropped, with those of dropped folders and their folders. */
export async function filesIn(dropped: DataTransfer): Promise<File[]> {
  const entries = [...dropped.items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...dropped.files];
  return (await Promise.all(entries.map(filesOf))).flat();
}

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) return [await new Promise<File>((found, failed) => (entry as FileSystemFileEntry).file(found, failed))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  // A folder is read in parts, until an empty one.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((found, failed) => reader.readEntries(found, failed));
    if (part.length === 0) break;
    inside.push(...part);
  }
  const files = await Promise.all(inside.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })).map(filesOf));
  return files.flat().filter((f) => !f.name.startsWith('.'));
}
