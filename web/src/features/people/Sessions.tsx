import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { accountQueries, endSessions, type Session } from "@/data/account";
import { useChanged } from "@/data/changes";
import { Button } from "@/ui/Button";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useMe } from "./queries";

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Every browser one is signed in with; any other can be signed out from here. */
export function Sessions() {
  const changed = useChanged();
  const me = useMe().data;
  const found = useQuery(accountQueries.sessions());
  async function end(sessions: Session[]) {
    await endSessions(sessions);
    await changed("session");
    toast(sessions.length === 1 ? "That browser is signed out." : `${sessions.length} browsers are signed out.`);
  }
  const all = found.data ?? [];
  const others = all.filter((s) => !s.is_current);
  const when = (seconds: number) => formatInstant(new Date(seconds * 1000).toISOString(), ZONE, me?.clock24 ?? true);
  return (
    <Box>
      {all.map((session) => (
        <Flex key={session.id} gap="12px" align="center" py="6px" borderTopWidth="1px" borderColor="rule">
          <Box flex="1" minW="0">
            <b>{session.is_current ? "This browser" : shortAgent(session.user_agent)}</b>
            <Box color="faded" fontSize="12px">
              {session.ip}, since {when(session.created_at)}
            </Box>
          </Box>
          {!session.is_current && <Button onClick={() => void end([session])}>Sign it out</Button>}
        </Flex>
      ))}
      {others.length > 1 && (
        <Button mt="8px" onClick={() => void end(others)}>
          Sign all others out
        </Button>
      )}
    </Box>
  );
}

/** The telling words of a browser's long name for itself. */
function shortAgent(agent: string): string {
  const system = /\(([^;)]+)/.exec(agent)?.[1] ?? "a computer";
  return `A browser on ${system}`;
}
