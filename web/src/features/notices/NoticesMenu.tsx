import { Box, chakra, Popover, Portal } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useChanged } from "@/data/changes";
import { noticeQueries, readNotices } from "@/data/notices";
import { useMe } from "@/features/people/queries";
import { formatInstant } from "@/ui/times";
import { useBrowserNotifications } from "./useBrowserNotifications";

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** What one was told, newest first; opening it marks all as read. Each leads to its spot. */
export function NoticesMenu() {
  const changed = useChanged();
  const navigate = useNavigate();
  const me = useMe();
  const [open, setOpen] = useState(false);
  const told = useQuery(noticeQueries.list());
  const unread = told.data?.unread ?? 0;
  useBrowserNotifications(told.data?.notices);
  const newest = told.data?.notices[0]?.id;

  async function opened(now: boolean) {
    setOpen(now);
    if (!now || !unread || !newest) return;
    await readNotices({ up_to: newest });
    await changed("notice");
  }
  return (
    <Popover.Root
      lazyMount
      unmountOnExit
      open={open}
      onOpenChange={(change) => void opened(change.open)}
      positioning={{ placement: "bottom-end" }}
    >
      <Popover.Trigger asChild>
        <chakra.button
          type="button"
          aria-label={unread ? `Notices, ${unread} unread` : "Notices"}
          position="relative"
          w="30px"
          h="30px"
          display="grid"
          placeItems="center"
          cursor="pointer"
          color="faded"
          _hover={{ color: "ink" }}
        >
          <svg
            width="18"
            height="18"
            viewBox="0 0 18 18"
            aria-hidden="true"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.5"
          >
            <path d="M2.5 3.5h13v9h-7l-3.5 3v-3h-2.5z" />
            <path d="M5.5 6.7h7M5.5 9.3h4.5" />
          </svg>
          {unread > 0 && (
            <chakra.span
              position="absolute"
              top="-1px"
              right="-3px"
              bg="pimenton"
              color="paper"
              fontSize="10px"
              lineHeight="15px"
              fontWeight="700"
              minW="15px"
              px="3px"
              borderRadius="8px"
            >
              {unread}
            </chakra.span>
          )}
        </chakra.button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content
            aria-label="Notices"
            css={{
              background: "card",
              borderWidth: "1px",
              borderColor: "ink",
              width: "min(380px, 94vw)",
              maxHeight: "70vh",
              overflowY: "auto",
              outline: "none",
              zIndex: 30,
            }}
          >
            {told.data?.notices.length === 0 && (
              <Box p="14px" color="faded">
                Nothing to tell yet. What needs you is told here and by e-mail.
              </Box>
            )}
            {told.data?.notices.map((notice) => (
              <chakra.button
                key={notice.id}
                type="button"
                onClick={() => {
                  setOpen(false);
                  void navigate({ href: notice.path });
                }}
                display="block"
                w="100%"
                textAlign="left"
                px="14px"
                py="9px"
                borderBottomWidth="1px"
                borderColor="rule"
                cursor="pointer"
                _hover={{ bg: "wash" }}
              >
                <Box fontWeight={notice.is_read ? undefined : "600"}>{notice.summary}</Box>
                <Box color="faded" fontSize="12px">
                  {formatInstant(notice.created_at, ZONE, me.data?.clock24 ?? true)}
                </Box>
              </chakra.button>
            ))}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}
