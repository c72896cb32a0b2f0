import { useEffect, useState } from "react";

/** The value once it has stood still for `pause` milliseconds: what is asked of the server while one types goes by it. */
export function useSettled<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
