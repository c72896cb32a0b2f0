import { Box, Flex } from "@chakra-ui/react";
import { useIsMutating, useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { postQueries } from "@/data/posts";
import { useNetworks } from "@/features/profiles/queries";
import { useSignoffActions } from "@/features/signoff/usePostSignoff";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { SidePanel } from "@/ui/SidePanel";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatInstant, formatWallTime, formatZone } from "@/ui/times";
import { MoveForm } from "./MoveForm";
import { useDeliveryActions } from "./queries";
import { SentContent } from "./SentContent";
import { SettleForm } from "./SettleForm";

/** Everything about one delivery, and what can be done with it. */
export function DeliveryPanel({ id, close }: { id: number | undefined; close: () => void }) {
  const { brand } = useBrandContext();
  const page = useQuery(postQueries.delivery(brand.slug, id));
  const title = page.data?.title || page.data?.text.split("\n")[0]?.slice(0, 60) || "Delivery";
  return (
    <SidePanel title={title} open={id !== undefined} close={close}>
      {page.error ? (
        <QueryFailed error={page.error} />
      ) : page.data ? (
        <About page={page.data} close={close} />
      ) : (
        <Loading />
      )}
    </SidePanel>
  );
}

function About({ page, close }: { page: Schemas["DeliveryPage"]; close: () => void }) {
  const { brand, me, may } = useBrandContext();
  const network = useNetworks().get(page.network);
  const { deed } = useDeliveryActions(brand.slug);
  const { agree } = useSignoffActions(brand.slug);
  const { delivery } = page;
  // While something one has just done is on its way, what is shown here may be as it was before that.
  const busy = useIsMutating() > 0;
  const can = (what: string) => may("publish") && delivery.allowed_actions.includes(what);
  const act = (what: "unplan" | "call-off" | "retry") =>
    deed.mutate({ id: delivery.id, revision: delivery.revision, deed: what });
  return (
    <Box display="grid" gap="12px">
      <Flex align="center" gap="8px" fontWeight="600">
        <StateShape state={delivery.state} size={16} />
        <span data-testid="delivery-state">{stateWords(delivery.state)}</span>
      </Flex>
      <Flex align="center" gap="8px">
        {network && <NetworkTile letters={network.letters} shape={network.shape} />} {page.handle}{" "}
        <Box color="faded">{network?.name}</Box>
      </Flex>
      {delivery.wall_time && (
        <Box>
          <b>{formatWallTime(delivery.wall_time, me.clock24)}</b>{" "}
          <Box as="span" color="faded">
            {formatZone(delivery.zone)}
          </Box>
        </Box>
      )}
      {delivery.not_before && delivery.state === "planned" && (
        <Box color="faded">
          Tried {delivery.tries} {delivery.tries === 1 ? "time" : "times"}; next try{" "}
          {formatInstant(delivery.not_before, brand.zone, me.clock24)}.
        </Box>
      )}
      {delivery.state === "held" && (
        <Box color="faded">
          {delivery.held_for === "paused"
            ? "It is paused: it goes out when somebody resumes before its time."
            : delivery.held_for === "reconnect"
              ? "It waits: its profile must be reconnected."
              : `It waits for sign-off: ${page.post_state.replaceAll("_", " ")}.`}
        </Box>
      )}
      {delivery.state === "waiting_for_hand" && (
        <Button kind="main" asChild>
          <Link to="/$brand/by-hand/$delivery" params={{ brand: brand.slug, delivery: String(delivery.id) }}>
            Publish it by hand
          </Link>
        </Button>
      )}
      {delivery.reason && (
        <Box
          p="8px 12px"
          borderLeft="3px solid"
          borderColor={delivery.state === "planned" ? "maize" : "pimenton"}
          bg="wash"
        >
          {delivery.reason}
        </Box>
      )}
      {delivery.allowed_actions.includes("settle") && may("publish") && (
        <SettleForm delivery={delivery} network={network?.name ?? ""} />
      )}
      <Box whiteSpace="pre-wrap" overflowWrap="anywhere" borderTopWidth="1px" borderColor="rule" pt="12px">
        {page.text || <i>No words yet.</i>}
      </Box>
      <Flex gap="6px" flexWrap="wrap">
        {page.media.map((asset) => (
          <Box asChild key={asset.id} maxH="120px" maxW="100%" borderRadius="2px">
            <img src={`/media/${brand.slug}/${asset.id}/thumb`} alt={asset.alt} />
          </Box>
        ))}
      </Flex>
      {page.first_comment && !delivery.comment && (
        <Box color="faded" fontSize="13px">
          First comment: {page.first_comment}
        </Box>
      )}
      {delivery.comment && <FirstComment page={page} mayTry={can("comment")} />}
      {delivery.remote_url && (
        <Box>
          <a href={delivery.remote_url} target="_blank" rel="noreferrer" style={{ textDecoration: "underline" }}>
            See it on {network?.name}
          </a>
        </Box>
      )}
      <SentContent page={page} />
      {can("move") && <MoveForm key={delivery.revision} delivery={delivery} handle={page.handle} />}
      <Flex gap="8px" flexWrap="wrap" borderTopWidth="1px" borderColor="rule" pt="12px">
        {can("retry") && (
          <Button kind="main" disabled={busy} onClick={() => act("retry")}>
            Send again
          </Button>
        )}
        {delivery.held_for === "signoff" && page.post_state !== "signed_off" && may("sign_off") && (
          <>
            <Button
              kind="main"
              disabled={busy}
              onClick={() => agree.mutate({ id: page.post, revision: page.post_revision })}
            >
              Sign off
            </Button>
            <Button asChild>
              <Link to="/$brand/sign" params={{ brand: brand.slug }} search={{ post: page.post }}>
                Look at it first
              </Link>
            </Button>
          </>
        )}
        {delivery.state === "missed" && may("publish") && (
          <Box color="faded" w="100%">
            Give it a new time above to plan it again.
          </Box>
        )}
        <Button asChild>
          <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(page.post) }} search={{}}>
            Open on the Bench
          </Link>
        </Button>
        {can("unplan") && (
          <Button
            disabled={busy}
            onClick={() => {
              act("unplan");
              close();
            }}
          >
            Back to the tray
          </Button>
        )}
        {can("call_off") && (
          <Button disabled={busy} onClick={() => act("call-off")}>
            Call off
          </Button>
        )}
      </Flex>
    </Box>
  );
}

const COMMENT: Record<string, string> = {
  waiting: "The first comment follows in a moment.",
  sending: "The first comment is being sent.",
  published: "The first comment is under it.",
  in_trouble: "The post is out, but its first comment is not.",
};

/** The first comment of what is published: a step of its own, which can be tried alone. */
function FirstComment({ page, mayTry }: { page: Schemas["DeliveryPage"]; mayTry: boolean }) {
  const { brand } = useBrandContext();
  const { deed } = useDeliveryActions(brand.slug);
  const { delivery } = page;
  const comment = delivery.comment;
  if (!comment) return null;
  const wrong = comment.state === "in_trouble";
  return (
    <Box
      p="8px 12px"
      borderLeft="3px solid"
      borderColor={wrong ? "pimenton" : "rule"}
      bg="wash"
      data-testid="first-comment"
    >
      <b>{COMMENT[comment.state]}</b>
      <Box overflowWrap="anywhere">{comment.text}</Box>
      {wrong && <Box color="pimenton">{comment.reason}</Box>}
      {mayTry && (
        <Button mt="6px" onClick={() => deed.mutate({ id: delivery.id, revision: delivery.revision, deed: "comment" })}>
          Try the comment alone
        </Button>
      )}
    </Box>
  );
}
