import { useRef, useState, useSyncExternalStore } from "react";
import { type Send, UploadQueue } from "./UploadQueue";

/** The files that are on their way from here. */
export function useUploads<Sent>(send: Send<Sent>, done: (sent: Sent) => void) {
  // As they are when a file's turn comes: a folder may have been opened meanwhile.
  const newest = useRef({ send, done });
  newest.current = { send, done };
  const [queue] = useState(
    () =>
      new UploadQueue<Sent>(
        (file, progress) => newest.current.send(file, progress),
        (sent) => newest.current.done(sent),
      ),
  );
  const going = useSyncExternalStore(queue.subscribe, queue.snapshot);
  return { going, add: queue.add, again: queue.again, drop: queue.drop };
}
