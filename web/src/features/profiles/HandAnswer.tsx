import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, type ReactNode, useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useForm } from "@/ui/useForm";
import { WallTimeInput } from "@/ui/WallTimeInput";

type Props = {
  zone: string;
  done: (url: string) => Promise<unknown>;
  notDone: (why: string) => Promise<unknown>;
  later: (wall: string) => Promise<unknown>;
};
type Answer = "done" | "later" | "not_done";
const TITLES: [Answer, string][] = [
  ["done", "It is done"],
  ["later", "Later"],
  ["not_done", "Not done"],
];

/** Done with a link, later, or not done with a reason. */
export function HandAnswer({ zone, done, notDone, later }: Props) {
  const [answer, setAnswer] = useState<Answer>("done");
  const [url, setUrl] = useState("");
  const [why, setWhy] = useState("");
  const [date, setDate] = useState("");
  const [time, setTime] = useState("18:00");
  const form = useForm();

  function send(event: FormEvent) {
    event.preventDefault();
    const act = { done: () => done(url), later: () => later(`${date}T${time}`), not_done: () => notDone(why) }[answer];
    void form.send(act);
  }
  const body: Record<Answer, ReactNode> = {
    done: (
      <Field
        label="Its link there (may stay empty)"
        inputMode="url"
        placeholder="https://"
        value={url}
        onChange={(e) => setUrl(e.currentTarget.value)}
        error={form.at("/url")}
      />
    ),
    later: (
      <Box mb="14px">
        <WallTimeInput
          date={date}
          time={time}
          zone={zone}
          change={(d, t) => {
            setDate(d);
            setTime(t);
          }}
          error={form.at("/wall_time")}
        />
      </Box>
    ),
    not_done: (
      <Field
        label="Why not"
        value={why}
        onChange={(e) => setWhy(e.currentTarget.value)}
        error={form.at("/reason")}
        maxLength={300}
      />
    ),
  };
  return (
    <chakra.form onSubmit={send} borderTopWidth="2px" borderColor="ink" pt="12px">
      <Flex role="group" aria-label="What came of it" mb="12px" borderWidth="1px" borderColor="rule" borderRadius="3px">
        {TITLES.map(([value, words]) => (
          <Button
            key={value}
            kind="quiet"
            flex="1"
            minH="44px"
            aria-pressed={answer === value}
            color={answer === value ? "paper" : "ink"}
            bg={answer === value ? "ink" : undefined}
            _hover={{}}
            borderRadius="0"
            onClick={() => setAnswer(value)}
          >
            {words}
          </Button>
        ))}
      </Flex>
      {body[answer]}
      <Button kind="main" type="submit" w="100%" minH="48px" disabled={form.busy}>
        {{ done: "Say that it is done", later: "Put it off", not_done: "Call it off" }[answer]}
      </Button>
      {form.loose("/url", "/wall_time", "/reason") && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.loose("/url", "/wall_time", "/reason")}
        </Box>
      )}
    </chakra.form>
  );
}
