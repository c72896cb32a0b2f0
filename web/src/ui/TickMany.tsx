import { Box, chakra, Flex } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { Button } from "./Button";
import { type Choice, fittingChoices, MANY, SHOWN } from "./choices";
import { Input } from "./Field";
import { Tick } from "./Tick";

type Props = { label: string; choices: Choice<number>[]; chosen: number[]; change: (chosen: number[]) => void };

/** Several of many, each with a box to tick; where there are more than one looks over, found by typing, and taken or left all at once. */
export function TickMany({ label, choices, chosen, change }: Props) {
  const [search, setSearch] = useState("");
  const [first] = useState(() => new Set(chosen));
  const many = choices.length > MANY;
  const fitting = useMemo(
    () => (many ? fittingChoices(choices, search, first) : choices),
    [many, choices, search, first],
  );
  const isAll = fitting.length > 0 && fitting.every((one) => chosen.includes(one.value));
  const fits = new Set(fitting.map((one) => one.value));
  const toggleAll = () =>
    change(
      isAll ? chosen.filter((id) => !fits.has(id)) : [...new Set([...chosen, ...fitting.map((one) => one.value)])],
    );
  return (
    <>
      {many && (
        <>
          <Input
            type="search"
            aria-label={`Find: ${label}`}
            placeholder="Type a part of the name"
            value={search}
            maxLength={100}
            onChange={(event) => setSearch(event.currentTarget.value)}
          />
          <Flex gap="10px" align="center" fontSize="12px" color="faded" minH="30px" role="status">
            {chosen.length} of {choices.length} chosen
            {search.trim() !== "" && fitting.length > 0 && (
              <Button kind="link" fontSize="12px" onClick={toggleAll}>
                {isAll ? `Choose none of these ${fitting.length}` : `Choose all ${fitting.length} that fit`}
              </Button>
            )}
          </Flex>
        </>
      )}
      {fitting.slice(0, many ? SHOWN : undefined).map((one) => (
        <Tick
          key={one.value}
          checked={chosen.includes(one.value)}
          onChange={(event) =>
            change(event.target.checked ? [...chosen, one.value] : chosen.filter((id) => id !== one.value))
          }
        >
          <Flex as="span" gap="6px" align="center">
            {one.mark}
            {one.words}
            {one.more && <chakra.span color="faded">{` ${one.more}`}</chakra.span>}
          </Flex>
        </Tick>
      ))}
      {many && fitting.length > SHOWN && (
        <Box fontSize="12px" color="faded" py="4px">
          {SHOWN} of {fitting.length}: type to find the others.
        </Box>
      )}
      {many && fitting.length === 0 && (
        <Box color="faded" py="4px">
          Nothing by that name.
        </Box>
      )}
    </>
  );
}
