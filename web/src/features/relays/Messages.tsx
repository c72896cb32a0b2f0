import { Box, Flex } from "@chakra-ui/react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { TextArea } from "@/ui/TextArea";
import { Part } from "./Part";
import type { Row } from "./queries";
import type { Draft } from "./settings";

type Props = {
  data: Draft;
  set: (part: Partial<Draft>) => void;
  row: Row;
  at: (pointer: string) => string | undefined;
};
/** What is said: one message or several that take turns. */
export function Messages({ data, set, row, at }: Props) {
  const { messages } = data;
  const change = (n: number, part: Partial<Draft["messages"][number]>) =>
    set({ messages: messages.map((one, place) => (place === n ? { ...one, ...part } : one)) });
  return (
    <Part title="Says">
      {messages.map((one, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: messages have no name but their place
        <Flex key={n} gap="12px" align="flex-start">
          <Box flex="1" minW="0">
            <TextArea
              label={messages.length > 1 ? `Message ${n + 1}` : "Message"}
              hint={n === 0 ? row.placeholders.join(" ") : undefined}
              rows={3}
              value={one.text}
              onChange={(e) => change(n, { text: e.currentTarget.value })}
              error={at(`/messages/${n}/text`)}
            />
          </Box>
          <Box w="104px" flex="none">
            <Field
              label="Times at most"
              type="number"
              min={1}
              value={one.times ?? ""}
              onChange={(e) => change(n, { times: Number(e.currentTarget.value) || null })}
              error={at(`/messages/${n}/times`)}
            />
          </Box>
          {messages.length > 1 && (
            <Button
              kind="quiet"
              mt="22px"
              aria-label={`Take message ${n + 1} out`}
              onClick={() => set({ messages: messages.filter((_, place) => place !== n) })}
            >
              ✕
            </Button>
          )}
        </Flex>
      ))}
      <Button
        mb="12px"
        onClick={() => set({ messages: [...messages, { text: messages[0]?.text ?? "", times: null }] })}
      >
        Another message, in turn
      </Button>
    </Part>
  );
}
