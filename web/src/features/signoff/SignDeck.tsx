import { Box, Flex } from "@chakra-ui/react";
import { useMemo, useRef, useState } from "react";
import { Problem } from "@/api/client";
import { useShortcuts } from "@/app/shortcuts";
import { Button } from "@/ui/Button";
import { toast } from "@/ui/toasts";
import { AnswerBar, type Asking } from "./AnswerBar";
import { AtAGlance } from "./AtAGlance";
import { type Answers, type Outcome, type PendingPost, type PendingSignoffs, useDeck } from "./deck";
import { NothingPending } from "./NothingPending";
import { Progress } from "./Progress";
import { SignPost } from "./SignPost";

const SWIPE = 70;
const KEYS = { a: "a", c: "c", ArrowRight: "next", ArrowLeft: "before" };

type Props = {
  data: PendingSignoffs;
  answers: Answers;
  first?: number;
  reload: () => Promise<unknown>;
  clock24: boolean;
};

/** Every post that waits, one after another: proof, differences, remarks, and the two answers under the thumb. */
export function SignDeck({ data, answers, first, reload, clock24 }: Props) {
  const deck = useDeck(data, first);
  const [column, setColumn] = useState(0);
  const [asking, setAsking] = useState<Asking>("");
  const [all, setAll] = useState(false);
  const [busy, setBusy] = useState(false);
  const touch = useRef<{ x: number; y: number } | null>(null);
  const post = deck.post;
  const outcome = post ? deck.outcome(post.post) : "gone";
  const shown = post?.columns[Math.min(column, post.columns.length - 1)];

  function turn(by: number) {
    setColumn(0);
    setAsking("");
    deck.step(by);
  }
  async function send(act: () => Promise<unknown>, as: Outcome | null, words: string, id: number) {
    setBusy(true);
    try {
      await act();
      setAsking("");
      if (as) {
        setColumn(0);
        deck.answered(id, as);
      }
      if (words) toast(words);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const stale = error.status === 412;
      toast(stale ? "It was changed while you looked. This is how it stands now." : error.message, { wrong: true });
    } finally {
      await reload();
      setBusy(false);
    }
  }
  const agree = (one: PendingPost, text?: string) => {
    const changes =
      text === undefined || !shown ? [] : [{ network: shown.network, profile: shown.profile ?? null, text }];
    return send(() => answers.agree(one, changes), "agreed", "Signed off.", one.post);
  };
  // The keys stay the same; what they do is of the post in sight.
  const actions = useRef<Record<string, () => void>>({});
  actions.current = {
    a: () => post && (outcome === "back" || (outcome === "open" && post.mine)) && !busy && void agree(post),
    c: () => post && outcome !== "gone" && setAsking("change"),
    next: () => turn(1),
    before: () => turn(-1),
  };
  const keys = useMemo(
    () => Object.fromEntries(Object.entries(KEYS).map(([key, deed]) => [key, () => actions.current[deed]?.()])),
    [],
  );
  useShortcuts(keys);

  if (!post || deck.order.length === 0) return <NothingPending link={data.by_link} />;
  if (all) {
    return (
      <AtAGlance
        posts={deck.open.filter((one) => one.mine)}
        networks={data.networks}
        clock24={clock24}
        close={() => setAll(false)}
        open={(id) => {
          setAll(false);
          setColumn(0);
          deck.go(id);
        }}
        agree={(chosen) =>
          send(
            async () => {
              const done = await answers.agreeToAll(chosen);
              const left = new Set(done.left.map((one) => one.post));
              for (const one of chosen) if (!left.has(one.post)) deck.answered(one.post, "agreed");
              for (const one of done.left.slice(0, 3)) toast(one.reason, { wrong: true });
              toast(`Signed off ${done.done} ${done.done === 1 ? "post" : "posts"}.`);
              setAll(false);
            },
            null,
            "",
            0,
          )
        }
      />
    );
  }
  const mine = deck.open.filter((one) => one.mine).length;
  return (
    <Flex
      direction="column"
      flex="1"
      minH="0"
      onTouchStart={(e) => {
        const finger = e.touches.item(0);
        touch.current = finger ? { x: finger.clientX, y: finger.clientY } : null;
      }}
      onTouchEnd={(e) => {
        const finger = e.changedTouches.item(0);
        const from = touch.current;
        if (!finger || !from || Math.abs(finger.clientY - from.y) > SWIPE / 2) return;
        if (Math.abs(finger.clientX - from.x) > SWIPE) turn(finger.clientX < from.x ? 1 : -1);
      }}
    >
      <Box flex="1" px="20px" pb="20px" w="100%" maxW="560px" mx="auto">
        <Progress
          order={deck.order}
          outcome={deck.outcome}
          present={post.post}
          go={(id) => {
            setColumn(0);
            setAsking("");
            deck.go(id);
          }}
        />
        <SignPost
          post={post}
          place={`${deck.place + 1} of ${deck.order.length}`}
          networks={data.networks}
          at={Math.min(column, post.columns.length - 1)}
          setAt={setColumn}
          clock24={clock24}
        />
        <Flex gap="14px" mt="18px" align="center" flexWrap="wrap">
          <Button kind="quiet" minH="44px" disabled={deck.place <= 0} onClick={() => turn(-1)}>
            ← Before
          </Button>
          <Button kind="quiet" minH="44px" disabled={deck.place >= deck.order.length - 1} onClick={() => turn(1)}>
            Next →
          </Button>
          <Box flex="1" />
          {mine > 1 && (
            <Button kind="link" minH="44px" onClick={() => setAll(true)}>
              All {mine} at a glance
            </Button>
          )}
        </Flex>
      </Box>
      <AnswerBar
        post={post}
        outcome={outcome}
        asking={asking}
        shown={shown}
        mayEdit={data.may_edit}
        busy={busy}
        ask={setAsking}
        agree={(text) => void agree(post, text)}
        change={(words, on) =>
          void send(() => answers.sendBack(post, words, on), "back", "Sent back, with what you said.", post.post)
        }
        say={(words, on) => void send(() => answers.say(post, words, on), null, "Said.", post.post)}
      />
    </Flex>
  );
}
