import { useState } from "react";
import { type Asset, Problem } from "@/api/client";
import { upload } from "@/api/upload";

export type UploadItem = { id: number; name: string; part: number; wrong?: string; file: File };

let next = 1;

/**
 * Several files at once, each on its own: one that fails leaves the others be, and can be tried again without being
 * chosen again.
 */
export function useUploads<T = Asset>(path: string, done: (asset: T) => void, more?: Record<string, string>) {
  const [going, setGoing] = useState<UploadItem[]>([]);
  const set = (id: number, change: Partial<UploadItem>) =>
    setGoing((all) => all.map((one) => (one.id === id ? { ...one, ...change } : one)));
  const drop = (id: number) => setGoing((all) => all.filter((one) => one.id !== id));

  async function send(one: UploadItem) {
    try {
      const asset = await upload<T>(path, one.file, (part) => set(one.id, { part }), more);
      drop(one.id);
      done(asset);
    } catch (error) {
      set(one.id, { wrong: error instanceof Problem ? error.message : `“${one.name}” could not be added.`, part: 0 });
    }
  }
  async function add(files: File[]) {
    const all = files.map((file) => ({ id: next++, name: file.name, part: 0, file }));
    // What failed before makes room for what is tried now.
    setGoing((before) => [...before.filter((one) => !one.wrong), ...all]);
    for (const one of all) await send(one);
  }
  async function again(id: number) {
    const one = going.find((g) => g.id === id);
    if (!one) return;
    set(id, { wrong: undefined });
    await send({ ...one, wrong: undefined });
  }
  return { going, add, again, drop };
}
