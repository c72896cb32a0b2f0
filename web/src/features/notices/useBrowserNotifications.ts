import { useEffect, useRef } from "react";
import type { Schemas } from "@/api/client";

/** Tell what is new by the browser's own notifications too, where the person has let it and looks elsewhere. */
export function useBrowserNotifications(notices: Schemas["NoticeOut"][] | undefined): void {
  const newest = useRef<number | null>(null);
  useEffect(() => {
    if (!notices) return;
    const before = newest.current;
    newest.current = notices[0]?.id ?? 0;
    if (before === null || !document.hidden || !("Notification" in window) || Notification.permission !== "granted")
      return;
    for (const notice of notices.filter((n) => n.id > before && !n.is_read).slice(0, 3)) {
      const shown = new Notification("Menudo", { body: notice.summary, tag: `menudo-${notice.id}` });
      shown.onclick = () => {
        window.focus();
        location.assign(notice.path);
      };
    }
  }, [notices]);
}
