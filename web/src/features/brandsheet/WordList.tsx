import { Box, chakra, Flex } from "@chakra-ui/react";
import { type KeyboardEvent, useId, useState } from "react";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";

type Props = { label: string; values: string[]; change: (values: string[]) => void; sign?: string; error?: string };

/** Several words or phrases: typed one after another, each taken out again at a press. */
export function WordList({ label, values, change, sign = "", error }: Props) {
  const id = useId();
  const [typed, setTyped] = useState("");
  function take() {
    const words = typed
      .split(",")
      .map((word) => word.trim().replace(sign ? /^#+/ : /^$/, ""))
      .filter((word) => word && !values.includes(word));
    if (words.length) change([...values, ...words]);
    setTyped("");
  }
  function press(event: KeyboardEvent) {
    if (event.key === "Enter" || event.key === ",") {
      event.preventDefault();
      take();
    } else if (event.key === "Backspace" && !typed && values.length) change(values.slice(0, -1));
  }
  return (
    <Box mb="14px">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      <Flex as="ul" listStyleType="none" gap="6px" flexWrap="wrap" mb={values.length ? "6px" : 0}>
        {values.map((word) => (
          <Flex as="li" key={word} align="center" borderBottomWidth="1px" borderColor="faded" pl="2px">
            {sign}
            {word}
            <Button
              kind="quiet"
              minH="24px"
              minW="24px"
              px="4px"
              aria-label={`Take out ${word}`}
              onClick={() => change(values.filter((w) => w !== word))}
            >
              ✕
            </Button>
          </Flex>
        ))}
      </Flex>
      <Input
        id={id}
        value={typed}
        placeholder="one, then enter"
        onChange={(e) => setTyped(e.currentTarget.value)}
        onKeyDown={press}
        onBlur={take}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-e` : undefined}
        maxLength={300}
      />
      {error && (
        <Box id={`${id}-e`} role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error}
        </Box>
      )}
    </Box>
  );
}
