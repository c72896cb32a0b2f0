import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { noticeQueries } from "@/data/notices";
import { EmptyState } from "@/ui/EmptyState";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatInstant } from "@/ui/times";

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const LINK = /(https?:\/\/\S+)/;

/** The demo's mail: kept here instead of being sent. */
export function MailTrayPage() {
  const mail = useQuery(noticeQueries.sentMail());
  if (mail.error && !mail.data) return <QueryFailed error={mail.error} />;
  return (
    <Box as="main" px={{ base: "12px", md: "24px" }} py="18px" maxW="760px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="4px">
        Mail tray
      </Box>
      <Box color="faded" mb="16px">
        The demo sends no mail: what it would have sent lies here, newest first.
      </Box>
      {mail.data?.length === 0 && (
        <EmptyState title="No mail yet" words="Invite someone, or ask for a new password, and look again." />
      )}
      {mail.data?.map((one) => (
        <Box as="article" key={one.id} bg="card" borderWidth="1px" borderColor="rule" p="12px 14px" mb="10px">
          <Box as="h2" fontSize="16px" lineHeight="20px">
            {one.channel === "text" ? "A text message" : one.subject}
          </Box>
          <Box color="faded" fontSize="12px" mb="8px">
            To {one.to}, {formatInstant(one.sent_at, ZONE, true)}
          </Box>
          <Box whiteSpace="pre-wrap" overflowWrap="anywhere">
            {one.body.split(LINK).map((part, n) =>
              LINK.test(part) ? (
                // biome-ignore lint/suspicious/noArrayIndexKey: parts of one text keep their order
                <a key={n} href={part} style={{ textDecoration: "underline" }}>
                  {part}
                </a>
              ) : (
                part
              ),
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
