import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { postQueries } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { SidePanel } from "@/ui/SidePanel";
import { toast } from "@/ui/toasts";
import { Diff } from "../cells/Diff";
import { usePlace } from "../place";

type Task = Schemas["WordingIn"]["task"];
type Props = { label: string; text: string; change: (text: string) => void; network?: string; close: () => void };

const TASKS: [Task, string, string][] = [
  ["shorten", "Shorter", "sentences and words left out, links and hashtags kept"],
  ["lengthen", "Longer", "from what the brand sheet says"],
  ["formal", "More formal", ""],
  ["plain", "Plainer", ""],
  ["vary", "Say it another way", ""],
  ["from_link", "From the link", "what the page says of itself"],
];

/** Wording help: three proposals, shown as differences, taken or left. Nothing changes by itself. */
export function WordingPanel({ label, text, change, network, close }: Props) {
  const { brand } = useBrandContext();
  const place = usePlace();
  const [task, setTask] = useState<Task | null>(null);
  const [seed, setSeed] = useState(1);
  const column = place.columns.find((c) => c.key === network);
  const draft = place.now();
  const link = draft.overrides[network ?? ""]?.link ?? draft.master.link ?? "";
  const found = useQuery({
    ...postQueries.wording(brand.slug, {
      task: task ?? "vary",
      text,
      network: column?.network ?? "",
      link,
      card: draft.master.card,
      seed,
    }),
    enabled: task !== null,
  });
  function take(proposal: string) {
    change(proposal);
    toast("The proposal is taken.", { undo: async () => change(text) });
    close();
  }
  return (
    <SidePanel title={`Wording: ${label}`} open close={close}>
      <Flex gap="8px" flexWrap="wrap" mb="12px" role="group" aria-label="What is wished for">
        {TASKS.map(([name, words, about]) => (
          <Button
            key={name}
            aria-pressed={task === name}
            title={about}
            borderColor={task === name ? "ink" : undefined}
            disabled={name === "from_link" && !link}
            onClick={() => setTask(name)}
          >
            {words}
          </Button>
        ))}
      </Flex>
      {task === null && (
        <Box color="faded">
          Menudo's own writer proposes; you take a proposal or leave it. It works by rules and lists, without any
          outside service{column ? `, and keeps to what ${place.networks.get(column.network)?.name} takes` : ""}.
        </Box>
      )}
      {task !== null && found.isPending && <Loading />}
      {found.error && (
        <Box role="alert" color="pimenton">
          {found.error instanceof Problem ? found.error.message : "The writer could not be asked."}
        </Box>
      )}
      {found.data?.map((proposal, at) => (
        <Box key={proposal.text} borderTopWidth="1px" borderColor="rule" py="12px" data-testid="proposal">
          <Diff segments={proposal.segments} />
          <Button mt="8px" aria-label={`Take this one, number ${at + 1}`} onClick={() => take(proposal.text)}>
            Take this one
          </Button>
        </Box>
      ))}
      {found.data && (
        <Button kind="link" onClick={() => setSeed((n) => n + 1)}>
          Others
        </Button>
      )}
    </SidePanel>
  );
}
