import { Box, Flex } from "@chakra-ui/react";
import { type Pause, Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { catchUp, endPause } from "@/data/delivery";
import { useUndo } from "@/features/calendar/queries";
import { useObstacles } from "@/features/profiles/queries";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { formatInstant, formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";

type Choice = "send_now" | "next_slots" | "drafts";
const CHOICES: [Choice, string][] = [
  ["send_now", "Send now"],
  ["next_slots", "Next free slots"],
  ["drafts", "Leave as drafts"],
];

/** On every page: what is paused, by whom and why; and what was missed meanwhile, with the choice of what becomes of it. */
export function ObstacleBars() {
  const { brand, me, may } = useBrandContext();
  const standing = useObstacles(brand.slug).data;
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  if (!standing || (standing.pauses.length === 0 && standing.missed.length === 0)) return null;

  async function told(act: () => Promise<void>) {
    try {
      await act();
    } catch (error) {
      if (error instanceof Problem) toast(error.message, { wrong: true });
    }
    await changed("profile");
  }
  const resume = (pause: Pause) =>
    told(async () => {
      await endPause(brand.slug, pause.id);
      toast(`${pause.handle || brand.name} goes on. What is planned goes out on time.`);
    });
  const choose = (choice: Choice) =>
    told(async () => {
      const done = await catchUp(brand.slug, { choice });
      const what = {
        send_now: "going out now, one after another",
        next_slots: "in the next free slots",
        drafts: "drafts again",
      };
      toast(`${done.count} ${done.count === 1 ? "delivery is" : "deliveries are"} ${what[choice]}.`, {
        undo:
          choice === "send_now"
            ? undefined
            : () =>
                undo(done.undo)
                  .then(() => changed("profile"))
                  .then(() => undefined),
      });
    });
  const when = (at: string) => formatInstant(at, brand.zone, me.clock24);
  const late = standing.missed;
  return (
    <Flex
      as="section"
      aria-label="What stands in the way"
      direction="column"
      borderBottomWidth="1px"
      borderColor="rule"
    >
      {standing.pauses.map((pause) => (
        <Bar key={pause.id} tone="maize" role="status">
          <Box flex="1" minW="220px">
            <b>{pause.profile === null ? `Everything of ${brand.name}` : pause.handle} is paused</b>
            {pause.ends_at ? ` until ${when(pause.ends_at)} (${formatZone(brand.zone)})` : " until somebody resumes"},
            by {pause.created_by}.{pause.reason && ` “${pause.reason}”`} Nothing goes out.
          </Box>
          {may("publish") && <Button onClick={() => void resume(pause)}>Resume</Button>}
        </Bar>
      ))}
      {late.length > 0 && (
        <Bar tone="pimenton" role="alert">
          <Box flex="1" minW="220px">
            <b>
              {late.length} {late.length === 1 ? "delivery was" : "deliveries were"} missed
            </b>{" "}
            {late[0]?.held_for === "reconnect" ? "while a profile had to be reconnected" : "while paused"}:{" "}
            {late
              .slice(0, 3)
              .map((one) => `${one.handle}, ${when(one.due_at)}`)
              .join("; ")}
            {late.length > 3 && ` and ${late.length - 3} more`}. What becomes of {late.length === 1 ? "it" : "them"}?
          </Box>
          {may("publish") &&
            CHOICES.map(([choice, words]) => (
              <Button key={choice} onClick={() => void choose(choice)}>
                {words}
              </Button>
            ))}
        </Bar>
      )}
    </Flex>
  );
}
