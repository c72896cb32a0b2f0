import { Box, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "@/ui/Button";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { auth } from "./auth";
import { useMe } from "./queries";

type Session = {
  id: number;
  ip: string;
  user_agent: string;
  created_at: number;
  last_seen_at?: number;
  is_current: boolean;
};
const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Every browser one is signed in with; any other can be signed out from here. */
export function Sessions() {
  const queries = useQueryClient();
  const me = useMe().data;
  const found = useQuery({
    queryKey: ["sessions"],
    queryFn: async () => ((await auth("GET", "auth/sessions")).body.data ?? []) as unknown as Session[],
  });
  async function end(sessions: Session[]) {
    await auth("DELETE", "auth/sessions", { sessions: sessions.map((s) => s.id) });
    await queries.invalidateQueries({ queryKey: ["sessions"] });
    toast(sessions.length === 1 ? "That browser is signed out." : `${sessions.length} browsers are signed out.`);
  }
  const all = Array.isArray(found.data) ? found.data : [];
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
