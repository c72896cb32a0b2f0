import { ANYTHING, type Change } from "@/data/changes";
import type { Message } from "./LiveLine";

const GATHER_MS = 120;
const isNotice = (change: Change) => change.kind === "notice";
/** A window nobody looks at for a day hears thousands: more than so many are anything. */
const MANY = 500;

/**
 * What a window has heard, a moment's together. A window that nobody sees reads nothing again until it is looked at, but for notices,
 * which the browser tells of elsewhere.
 */
export class HeardChanges {
  private changes: Change[] = [];
  /** More was missed, or heard, than `changes` says. */
  private anything = false;
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
    // What was missed may have been a notice: that is looked for at once.
    this.changes.push(message === "broken" ? { kind: "notice", id: 0 } : message);
    this.anything ||= message === "broken" || this.changes.length > MANY;
    if (this.anything) this.changes = this.changes.filter(isNotice);
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
    const { hidden } = this.page;
    const now = hidden ? this.changes.filter(isNotice) : this.anything ? ANYTHING : this.changes;
    this.changes = hidden ? this.changes.filter((change) => !isNotice(change)) : [];
    this.anything &&= hidden;
    if (now.length) this.read(now, this.listeners);
  }
}
