import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Network } from "@/api/client";
import { Button } from "@/ui/Button";
import { NetworkTile } from "@/ui/NetworkTile";
import { standingFoot } from "@/ui/standingFoot";
import { formatWallTime } from "@/ui/times";
import type { PendingPost } from "./deck";

type Props = {
  posts: PendingPost[];
  networks: Network[];
  clock24: boolean;
  close: () => void;
  open: (id: number) => void;
  agree: (posts: PendingPost[]) => Promise<void>;
};

/** Everything that waits in a list, by day, to be signed off at once: a whole week for instance. */
export function AtAGlance({ posts, networks, clock24, close, open, agree }: Props) {
  const [off, setOff] = useState<Set<number>>(new Set());
  const [busy, setBusy] = useState(false);
  const chosen = posts.filter((post) => !off.has(post.post));
  const toggle = (id: number) =>
    setOff((before) => {
      const after = new Set(before);
      if (!after.delete(id)) after.add(id);
      return after;
    });
  return (
    <Flex direction="column" flex="1">
      <Box flex="1" px="20px" py="14px" w="100%" maxW="560px" mx="auto">
        <Flex align="baseline" gap="12px" mb="10px">
          <Box as="h1" fontSize="22px" lineHeight="28px" flex="1">
            All at a glance
          </Box>
          <Button kind="link" minH="32px" onClick={close}>
            One by one
          </Button>
        </Flex>
        <Box as="ul" listStyleType="none" m="0" p="0">
          {posts.map((post) => (
            <Flex
              as="li"
              key={post.post}
              gap="12px"
              py="10px"
              borderTopWidth="1px"
              borderColor="rule"
              align="flex-start"
            >
              <chakra.input
                type="checkbox"
                aria-label={`Sign off ${post.title || post.headline}`}
                checked={!off.has(post.post)}
                onChange={() => toggle(post.post)}
                w="24px"
                h="24px"
                flex="none"
                accentColor="var(--m-colors-epazote)"
              />
              <chakra.button
                type="button"
                textAlign="left"
                flex="1"
                minW="0"
                minH="44px"
                cursor="pointer"
                onClick={() => open(post.post)}
              >
                <Box fontWeight="600" truncate>
                  {post.title || post.headline || "A post without words"}
                </Box>
                <Flex gap="6px" align="center" color="faded" fontSize="12.5px">
                  {[...new Set(post.columns.map((c) => c.network))].map((name) => {
                    const network = networks.find((n) => n.network === name);
                    return (
                      network && <NetworkTile key={name} letters={network.letters} shape={network.shape} size={20} />
                    );
                  })}
                  {post.first_due ? formatWallTime(post.first_due, clock24) : "no time yet"}
                </Flex>
              </chakra.button>
            </Flex>
          ))}
        </Box>
      </Box>
      <Box ref={standingFoot} position="sticky" bottom="0" bg="wash" borderTopWidth="2px" borderColor="ink">
        <Box w="100%" maxW="560px" mx="auto" px="20px" py="14px">
          <Button
            w="100%"
            minH="48px"
            bg="epazote"
            color="paper"
            borderColor="epazote"
            disabled={busy || chosen.length === 0}
            onClick={async () => {
              setBusy(true);
              await agree(chosen).finally(() => setBusy(false));
            }}
          >
            Sign off {chosen.length === posts.length ? `all ${chosen.length}` : `${chosen.length} of ${posts.length}`}
          </Button>
        </Box>
      </Box>
    </Flex>
  );
}
