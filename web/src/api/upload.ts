import { toProblem, writeToken } from "./client";

const TRIES = 3;
const PAUSE_MS = 1200;

/**
 * Send one file and say how far it got (0 to 1). A connection that breaks off is tried again, a few times.
 * Throws a Problem with the reason, in the file's own words.
 */
export async function upload<T>(
  path: string,
  file: File,
  progress: (part: number) => void,
  more: Record<string, string> = {},
): Promise<T> {
  for (let tried = 1; ; tried++) {
    const answer = await once(path, file, progress, more);
    if (answer) {
      if (answer.status >= 200 && answer.status < 300) return answer.body as T;
      throw toProblem(answer.status, answer.body);
    }
    if (tried === TRIES) {
      throw toProblem(0, { detail: `“${file.name}” could not be sent: Menudo can't be reached just now.` });
    }
    await new Promise((go) => setTimeout(go, PAUSE_MS * tried));
  }
}

async function once(path: string, file: File, progress: (part: number) => void, more: Record<string, string>) {
  const form = new FormData();
  form.append("file", file);
  for (const [name, value] of Object.entries(more)) form.append(name, value);
  const token = await writeToken().catch(() => "");
  return new Promise<{ status: number; body: unknown } | null>((done) => {
    const request = new XMLHttpRequest();
    request.open("POST", path);
    request.setRequestHeader("X-CSRFToken", token);
    request.upload.onprogress = (event) => event.lengthComputable && progress(event.loaded / event.total);
    request.onload = () => {
      try {
        done({ status: request.status, body: JSON.parse(request.responseText) });
      } catch {
        done({ status: request.status || 500, body: null });
      }
    };
    request.onerror = () => done(null);
    request.onabort = () => done(null);
    request.send(form);
  });
}
