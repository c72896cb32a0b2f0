import { ANYTHING, type Change } from "@/data/changes";
import type { Message } from "./LiveLine";

const GATHER_MS = 120;
/** A window nobody looks at for a day hears thousands: more than so many are anything. */
const MANY = 500;

/**
 * What a window has heard, a moment's together. A window that nobody sees reads nothing again until it is looked at, but for notices,
 * which the browser tells of elsewhere.
 */
export class HeardChanges {
  private changes: Change[] = [];
  private listeners = 1;
  private timer?: ReturnType<typeof setTimeout>;
  private readonly look = () => this.soon();

  constructor(
    private readonly read: (changes: Change[], listeners: number) => void,
    private readonly page: Document = document,
  ) {
    page.addEventListener("visibilitychange", this.look);
  }

  hear(message: Message): void {
    if (typeof message === "object" && "listeners" in message) {
      this.listeners = message.listeners;
      return;
    }
    if (message === "broken") this.changes = ANYTHING;
    else if (this.changes !== ANYTHING) this.changes.push(message);
    if (this.changes.length > MANY) this.changes = ANYTHING;
    this.soon();
  }

  close(): void {
    clearTimeout(this.timer);
    this.page.removeEventListener("visibilitychange", this.look);
  }

  private soon(): void {
    this.timer ??= setTimeout(() => this.flush(), GATHER_MS);
  }

  private flush(): void {
    this.timer = undefined;
    const now = this.page.hidden ? this.changes.filter((change) => change.kind === "notice") : this.changes;
    if (!this.page.hidden) this.changes = [];
    else if (this.changes !== ANYTHING) this.changes = this.changes.filter((change) => change.kind !== "notice");
    if (now.length) this.read(now, this.listeners);
  }
}
