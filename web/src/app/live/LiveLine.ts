import type { Change } from "@/data/changes";

/** A thing has changed; or the line was broken, and what was missed is not known; or so many windows hear the brand's changes. */
export type Message = Change | "broken" | { listeners: number };

/** What a line needs of its browser; without locks and channels each window has a line of its own. */
export type Surroundings = {
  source: (address: string) => EventSource;
  locks?: LockManager;
  channel?: (name: string) => BroadcastChannel;
};

const RETRY_MS = 5_000;
const MOST_MS = 60_000;

/**
 * The line to a brand's live stream. All windows of a browser that show the brand share one: a browser opens few
 * connections to a place, and each stream keeps one for itself. The window that holds the lock has the line and passes
 * on what it says; when it closes, another takes over.
 */
export class LiveLine {
  private source?: EventSource;
  private timer?: ReturnType<typeof setTimeout>;
  private release?: () => void;
  private readonly channel?: BroadcastChannel;
  private readonly closed = new AbortController();

  constructor(
    private readonly brand: string,
    private readonly hear: (message: Message) => void,
    private readonly browser: Surroundings = surroundings(),
  ) {
    const { locks, channel } = browser;
    if (!locks || !channel) {
      this.open(false);
      return;
    }
    const name = `menudo-live-${brand}`;
    this.channel = channel(name);
    this.channel.onmessage = (event) => hear(event.data as Message);
    void this.share(locks, name).catch(() => undefined);
  }

  close(): void {
    this.closed.abort();
    this.source?.close();
    this.channel?.close();
    clearTimeout(this.timer);
    this.release?.();
  }

  private async share(locks: LockManager, name: string): Promise<void> {
    let first = false;
    await locks.request(name, { ifAvailable: true }, async (lock) => {
      first = lock !== null;
      if (first) await this.lead(false);
    });
    // What was said between the end of another window's line and the beginning of this one is not known.
    if (!first) await locks.request(name, { signal: this.closed.signal }, () => this.lead(true));
  }

  /** Have the line until this window closes. */
  private lead(afterBreak: boolean): Promise<void> {
    if (this.closed.signal.aborted) return Promise.resolve();
    this.open(afterBreak);
    return new Promise((release) => {
      this.release = release;
    });
  }

  private open(afterBreak: boolean, tries = 0): void {
    const source = this.browser.source(`/live/${this.brand}`);
    this.source = source;
    let broken = afterBreak;
    let failed = tries;
    source.addEventListener("ready", () => {
      failed = 0;
      if (broken) this.say("broken");
      broken = true;
    });
    source.addEventListener("change", (event) => this.say(JSON.parse(event.data) as Message));
    source.addEventListener("listeners", (event) => this.say({ listeners: Number(event.data) }));
    // A browser comes back by itself after a break in the line, but not after a refusal: that may be over in a while.
    source.addEventListener("error", () => {
      if (source.readyState !== 2) return;
      this.timer = setTimeout(() => this.open(true, failed + 1), Math.min(RETRY_MS * 2 ** failed, MOST_MS));
    });
  }

  private say(message: Message): void {
    this.channel?.postMessage(message);
    this.hear(message);
  }
}

function surroundings(): Surroundings {
  return {
    source: (address) => new EventSource(address),
    locks: navigator.locks,
    channel: "BroadcastChannel" in window ? (name) => new BroadcastChannel(name) : undefined,
  };
}
