import { Box, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { type Network, Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { retryComment, retryDeliveries } from "@/data/delivery";
import { callOffDeliveries } from "@/data/posts";
import { useUndo } from "@/features/calendar/queries";
import { Button } from "@/ui/Button";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";

type Group = Schemas["TroubleGroup"];
type Item = Schemas["TroubleItem"];

/** Trouble of one cause: what it is, what to do, and doing it to one or to all. */
export function TroubleGroup({ group, networks }: { group: Group; networks: Map<string, Network> }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const [busy, setBusy] = useState(false);
  const path = { brand: brand.slug };
  const undo = useUndo(brand.slug);
  const again = group.items.filter((item) => item.allowed_actions.includes("retry"));
  const off = group.items.filter((item) => item.allowed_actions.includes("call_off"));

  async function attempt(act: () => Promise<void>) {
    setBusy(true);
    try {
      await act();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    } finally {
      await changed("delivery");
      setBusy(false);
    }
  }
  const retry = (items: Item[]) =>
    attempt(async () => {
      const body = { deliveries: items.map((i) => ({ id: i.delivery, revision: i.revision })) };
      const done = await retryDeliveries(brand.slug, body);
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      toast(done.done === 1 ? "It is being sent again." : `${done.done} are being sent again.`);
    });
  const comment = (item: Item) =>
    attempt(async () => {
      await retryComment(brand.slug, item.delivery, item.revision);
      toast("The comment is being sent again.");
    });
  const callOff = (items: Item[]) =>
    attempt(async () => {
      const body = { deliveries: items.map((i) => i.delivery) };
      const done = await callOffDeliveries(brand.slug, body);
      const entry = done.undo;
      toast(`Called ${done.moved.length} off.`, { undo: entry ? () => undo(entry) : undefined });
    });
  return (
    <Box as="section" aria-label={group.title} borderTopWidth="2px" borderColor="pimenton" pt="8px" mb="26px">
      <Flex align="baseline" gap="10px" flexWrap="wrap">
        <Box as="h2" fontSize="18px" lineHeight="24px">
          {group.title}
        </Box>
        <Box color="pimenton" fontWeight="600">
          {group.items.length}
        </Box>
        <Box flex="1" />
        {may("publish") && again.length > 1 && (
          <Button disabled={busy} onClick={() => void retry(again)}>
            Send all {again.length} again
          </Button>
        )}
        {may("publish") && off.length > 1 && (
          <Button disabled={busy} onClick={() => void callOff(off)}>
            Call all off
          </Button>
        )}
      </Flex>
      <Box color="faded" mb="6px">
        {group.advice}{" "}
        {group.remedy === "reconnect" && (
          <Link to="/$brand/profiles" params={path} search={{}} style={{ textDecoration: "underline" }}>
            To the profiles
          </Link>
        )}
      </Box>
      {group.items.map((item) => (
        <Flex
          key={item.delivery}
          gap="12px"
          py="8px"
          borderTopWidth="1px"
          borderColor="rule"
          align="flex-start"
          flexWrap="wrap"
          data-testid="trouble-item"
        >
          <Box pt="3px">
            <StateShape state={item.state === "published" ? "in_trouble" : item.state} />
          </Box>
          <Where item={item} network={networks.get(item.network)} />
          <Box flex="1" minW="220px">
            <Box fontWeight="600" overflowWrap="anywhere">
              {item.headline || <i>no words</i>}
            </Box>
            <Box color="pimenton" fontSize="12.5px" lineHeight="17px">
              {item.reason}
            </Box>
          </Box>
          <Deeds item={item} group={group} busy={busy} retry={retry} comment={comment} />
          {may("publish") && item.allowed_actions.includes("call_off") && (
            <Button
              kind="quiet"
              disabled={busy}
              aria-label={`Call off: ${item.headline}, ${item.handle}`}
              onClick={() => void callOff([item])}
            >
              Call off
            </Button>
          )}
        </Flex>
      ))}
    </Box>
  );
}

function Where({ item, network }: { item: Item; network: Network | undefined }) {
  const { brand, me } = useBrandContext();
  return (
    <Box w="190px">
      <Flex gap="6px" align="center">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={20} />} {item.handle}
      </Flex>
      <Box color="faded" fontSize="12px">
        {item.due_at && formatInstant(item.due_at, brand.zone, me.clock24)}
        {item.tries > 1 && ` · ${item.tries} tries`}
      </Box>
    </Box>
  );
}

type DeedsProps = {
  item: Item;
  group: Group;
  busy: boolean;
  retry: (items: Item[]) => Promise<void>;
  comment: (item: Item) => Promise<void>;
};

/** What mends it, in place or one step away. */
function Deeds({ item, group, busy, retry, comment }: DeedsProps) {
  const { brand, may } = useBrandContext();
  const params = { brand: brand.slug };
  const called = `${item.headline}, ${item.handle}`;
  return (
    <Flex gap="8px">
      {group.remedy === "write" && may("write") && (
        <Button asChild>
          <Link
            to="/$brand/bench/$post"
            params={{ ...params, post: String(item.post) }}
            search={{}}
            aria-label={`Change it: ${called}`}
          >
            Change it
          </Link>
        </Button>
      )}
      {item.allowed_actions.includes("retry") && may("publish") && (
        <Button disabled={busy} aria-label={`Send again: ${called}`} onClick={() => void retry([item])}>
          Send again
        </Button>
      )}
      {item.allowed_actions.includes("comment") && may("publish") && (
        <Button disabled={busy} aria-label={`Try the comment: ${called}`} onClick={() => void comment(item)}>
          Try the comment
        </Button>
      )}
      {group.remedy === "sign" && (
        <Button asChild>
          <Link
            to="/$brand/bench/$post"
            params={{ ...params, post: String(item.post) }}
            search={{}}
            aria-label={`See its sign-off: ${called}`}
          >
            See its sign-off
          </Link>
        </Button>
      )}
      {["look", "plan", "sign", "reconnect"].includes(group.remedy) && (
        <Button asChild>
          <Link
            to="/$brand/calendar"
            params={params}
            search={{ open: item.delivery }}
            aria-label={`${group.remedy === "look" ? "Look, and say" : "Plan again"}: ${called}`}
          >
            {group.remedy === "look" ? "Look, and say" : "Plan again"}
          </Link>
        </Button>
      )}
    </Flex>
  );
}
