import { Box, Flex } from "@chakra-ui/react";
import type { RemarkTarget } from "@/features/talk/target";
import { Button } from "@/ui/Button";
import { Kbd } from "@/ui/Kbd";
import { StateShape } from "@/ui/StateShape";
import { standingFoot } from "@/ui/standingFoot";
import { Answer } from "./Answer";
import type { Outcome, PendingColumn, PendingPost } from "./deck";

export type Asking = "" | "change" | "edit";
type Props = {
  post: PendingPost;
  outcome: Outcome;
  asking: Asking;
  shown: PendingColumn | undefined;
  mayEdit: boolean;
  busy: boolean;
  ask: (what: Asking) => void;
  agree: (text?: string) => void;
  change: (words: string, on: RemarkTarget) => void;
  say: (words: string, on: RemarkTarget) => void;
};

/** Under the thumb: the two answers, or what should be changed. */
export function AnswerBar({ post, outcome, asking, shown, mayEdit, busy, ask, agree, change, say }: Props) {
  return (
    <Box
      ref={standingFoot}
      as="section"
      aria-label="Your answer"
      position="sticky"
      bottom="0"
      bg="wash"
      borderTopWidth="2px"
      borderColor="ink"
      zIndex="5"
    >
      <Box w="100%" maxW="560px" mx="auto" px="20px" py="14px">
        {outcome === "gone" || outcome === "agreed" ? (
          <Flex align="center" gap="10px" minH="48px" fontWeight="600" role="status">
            <StateShape state={outcome === "agreed" ? "published" : "called_off"} size={18} />
            {outcome === "agreed" ? "You have signed this off." : "It no longer waits for you."}
          </Flex>
        ) : asking ? (
          <Answer
            key={`${post.post}${asking}${shown?.network}`}
            mode={asking}
            versions={post.columns.map((c) => ({ network: c.network, profile: c.profile, name: calledColumn(c) }))}
            column={shown}
            busy={busy}
            cancel={() => ask("")}
            change={change}
            say={say}
            edit={agree}
          />
        ) : (
          <Answers {...{ post, outcome, shown, mayEdit, busy, ask, agree }} />
        )}
      </Box>
    </Box>
  );
}

function Answers({ post, outcome, shown, mayEdit, busy, ask, agree }: Omit<Props, "asking" | "change" | "say">) {
  return (
    <>
      {outcome === "back" && (
        <Box mb="8px" color="faded">
          Sent back: it comes again when it is mended. You may still sign it off as it is.
        </Box>
      )}
      <Flex gap="10px">
        <Button flex="1" minH="48px" disabled={busy} onClick={() => ask("change")} borderColor="ink">
          Ask for a change <Desk k="c" />
        </Button>
        <Button
          flex="1"
          minH="48px"
          bg="epazote"
          color="paper"
          borderColor="epazote"
          disabled={busy || (!post.mine && outcome !== "back")}
          onClick={() => agree()}
        >
          Sign off <Desk k="a" />
        </Button>
      </Flex>
      {!post.mine && outcome === "open" && (
        <Box mt="8px" color="faded">
          It waits on {post.asked.join(", ")} just now.
        </Box>
      )}
      {mayEdit && post.mine && (
        <Button kind="link" mt="10px" minH="32px" onClick={() => ask("edit")}>
          Change the wording for {shown?.name}
        </Button>
      )}
    </>
  );
}

/** A version as it is called: its network, or the one profile it is for. */
function calledColumn(column: PendingColumn): string {
  return column.profile === null ? column.name : `${column.name}, ${column.when[0]?.handle ?? "its own"}`;
}

/** A key's name, where there are keys. */
function Desk({ k }: { k: string }) {
  return (
    <Box as="span" display={{ base: "none", md: "inline" }}>
      <Kbd>{k}</Kbd>
    </Box>
  );
}
