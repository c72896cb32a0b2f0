import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Network, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Diff } from "@/features/posts/cells/Diff";
import type { Version } from "@/features/talk/target";
import { Button } from "@/ui/Button";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { Answer } from "./Answer";
import { usePostSignoff, useSignoffActions } from "./usePostSignoff";

type Signed = Schemas["DeliverySignoffOut"];
type Props = {
  id: number | null;
  write: () => Promise<{ id: number; revision: number } | null>;
  networks: Map<string, Network>;
  versions: Version[];
};

const DRAFT = "A draft: nobody is asked yet.";
const MARKS: Record<string, string> = { waits: "up_for_signoff", back: "sent_back", agreed: "published" };

/** Above the matrix: where the post's sign-off stands, delivery by delivery, and what one may do about it. It stands there before the
 * post is first kept, so that nothing moves under a hand when it is. */
export function SignBar({ id, write, networks, versions }: Props) {
  const { brand } = useBrandContext();
  const signing = usePostSignoff(brand.slug, id).data;
  const actions = useSignoffActions(brand.slug);
  const [open, setOpen] = useState(false);
  const [asking, setAsking] = useState(false);
  if (!(signing?.needed ?? brand.needs_signoff)) return null;
  const can = (what: string) => signing?.allowed_actions.includes(what) ?? false;
  const busy =
    actions.putUp.isPending || actions.agree.isPending || actions.sendBack.isPending || actions.withdraw.isPending;

  async function act(what: (at: { id: number; revision: number }) => void) {
    // What was typed a moment ago is kept first: what is put up and agreed to is what one sees.
    const present = await write().catch(() => null);
    // No more of it than is asked for: it may be the whole post.
    if (present) what({ id: present.id, revision: present.revision });
  }
  return (
    <Box
      as="section"
      aria-label="Sign-off"
      mx={{ base: "12px", md: "24px" }}
      mb="10px"
      borderTopWidth="1px"
      borderBottomWidth="1px"
      borderColor="rule"
      py="6px"
    >
      <Flex align="center" gap="12px" flexWrap="wrap">
        <Button kind="quiet" aria-expanded={open} disabled={!signing} onClick={() => setOpen(!open)} px="0">
          <span aria-hidden>{open ? "▾" : "▸"}</span> Sign-off
        </Button>
        <Box flex="1" minW="200px" data-testid="sign-words">
          {signing ? words(signing) : id === null && DRAFT}
        </Box>
        {can("withdraw") && (
          <Button disabled={busy} onClick={() => void act((at) => actions.withdraw.mutate(at))}>
            Take it back
          </Button>
        )}
        {can("send_back") && (
          <Button disabled={busy} onClick={() => setAsking(true)}>
            Ask for a change
          </Button>
        )}
        {can("put_up") && (
          <Button disabled={busy} onClick={() => void act((at) => actions.putUp.mutate([at]))}>
            {signing?.state === "sent_back" ? "Put up again" : "Put up for sign-off"}
          </Button>
        )}
        {can("agree") && (
          <Button
            bg="epazote"
            color="paper"
            borderColor="epazote"
            disabled={busy}
            onClick={() => void act((at) => actions.agree.mutate(at))}
          >
            Sign off
          </Button>
        )}
      </Flex>
      {asking && (
        <Box maxW="560px" pt="8px">
          <Answer
            mode="change"
            versions={versions}
            busy={busy}
            cancel={() => setAsking(false)}
            change={(values, on) => {
              setAsking(false);
              void act((at) => actions.sendBack.mutate({ ...at, words: values, on }));
            }}
          />
        </Box>
      )}
      {open && signing && (
        <Box pt="6px" pb="4px">
          {signing.deliveries.length === 0 && <Box color="faded">No rule asks for anything of this post.</Box>}
          {signing.deliveries.map((one) => (
            <OneDelivery key={one.delivery} one={one} networks={networks} />
          ))}
        </Box>
      )}
    </Box>
  );
}

function words({ state, deliveries }: Schemas["PostSignoffOut"]): string {
  const asked = [...new Set(deliveries.flatMap((d) => d.asked))];
  if (state === "draft") return DRAFT;
  if (state === "sent_back") return "Sent back. Mend it, and put it up again.";
  if (state === "up_for_signoff") return `Waits on ${asked.join(", ") || "nobody"}.`;
  return deliveries.some((d) => d.state === "agreed") ? "Signed off." : "Nobody's agreement is needed.";
}

function OneDelivery({ one, networks }: { one: Signed; networks: Map<string, Network> }) {
  const { brand, me } = useBrandContext();
  return (
    <Box py="6px" borderTopWidth="1px" borderColor="rule">
      <Flex gap="10px" align="flex-start" flexWrap="wrap">
        <Box pt="3px">
          <StateShape state={MARKS[one.state] ?? "planned"} />
        </Box>
        <Box w="220px" fontWeight="600">
          {networks.get(one.network)?.name}, {one.handle}
        </Box>
        <Box flex="1" minW="200px">
          {one.state === "agreed" && "agreed to"}
          {one.state === "" && "nobody is asked"}
          {one.state === "back" && "a change is asked for"}
          {one.state === "waits" && `waits on ${one.asked.join(", ")}`}
          {one.until && one.state === "waits" && (
            <Box as="span" color={one.late ? "pimenton" : "faded"}>
              {" "}
              until {formatInstant(one.until, brand.zone, me.clock24)}
              {one.late && ", which has passed"}
            </Box>
          )}
          <Box color="faded" fontSize="12px" lineHeight="17px">
            {one.answers.map((a) => (
              <Box key={a.answered_at + a.name}>
                {a.name} {a.verdict === "agreed" ? "agreed" : "asked for a change"},{" "}
                {formatInstant(a.answered_at, brand.zone, me.clock24)}
                {!a.counts && a.verdict === "agreed" && " (to another wording)"}
              </Box>
            ))}
          </Box>
          {one.differs && (
            <Box mt="4px" data-testid="bench-differs">
              Different since it was agreed to{one.parts.length > 0 && ` (also ${one.parts.join(", ")})`}:
              <Diff segments={one.differs} />
            </Box>
          )}
        </Box>
      </Flex>
    </Box>
  );
}
