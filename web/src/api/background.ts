/** For what nobody waits for: it lets go before it what people do (RFC 9218, 4.1). */
export const LESS_URGENT = "u=5";

let background = false;

/** Whatever is asked of the server while this runs, until it first waits for something, is less urgent than the rest. */
export function inBackground<T>(ask: () => T): T {
  const before = background;
  background = true;
  try {
    return ask();
  } finally {
    background = before;
  }
}

export const isInBackground = () => background;
