import { Problem } from "@/api/client";

/** A file on its way: how far it got (0 to 1), or what went wrong with it. */
export type UploadItem = { id: number; name: string; part: number; wrong?: string; file: File };

/** Sends one file and says how far it got. Throws a Problem. */
export type Send<Sent> = (file: File, progress: (part: number) => void) => Promise<Sent>;

let next = 1;

/**
 * Several files, sent one after another, each on its own: one that fails leaves the others be, and can be tried again
 * without being chosen again.
 */
export class UploadQueue<Sent> {
  private items: readonly UploadItem[] = [];
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly send: Send<Sent>,
    private readonly done: (sent: Sent) => void,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** A new array whenever something of it changes. */
  readonly snapshot = (): readonly UploadItem[] => this.items;

  readonly add = async (files: File[]): Promise<void> => {
    const all = files.map((file) => ({ id: next++, name: file.name, part: 0, file }));
    // What failed before makes room for what is tried now.
    this.set([...this.items.filter((item) => !item.wrong), ...all]);
    for (const item of all) await this.sendItem(item);
  };

  readonly again = async (id: number): Promise<void> => {
    const item = this.items.find((one) => one.id === id);
    if (!item) return;
    this.update(id, { wrong: undefined });
    await this.sendItem(item);
  };

  readonly drop = (id: number): void => this.set(this.items.filter((item) => item.id !== id));

  private async sendItem(item: UploadItem): Promise<void> {
    let sent: Sent;
    try {
      sent = await this.send(item.file, (part) => this.update(item.id, { part }));
    } catch (error) {
      const wrong = error instanceof Problem ? error.message : `“${item.name}” could not be added.`;
      this.update(item.id, { wrong, part: 0 });
      return;
    }
    this.drop(item.id);
    this.done(sent);
  }

  private update(id: number, change: Partial<UploadItem>): void {
    this.set(this.items.map((item) => (item.id === id ? { ...item, ...change } : item)));
  }

  private set(items: readonly UploadItem[]): void {
    this.items = items;
    for (const listener of this.listeners) listener();
  }
}
