import { Box, chakra, Flex } from "@chakra-ui/react";

const STEPS = [0, 1, 2, 3, 4];

/** A scale of five between two words. */
export function Scale({
  name,
  from,
  to,
  value,
  change,
}: {
  name: string;
  from: string;
  to: string;
  value: number;
  change: (value: number) => void;
}) {
  return (
    <Box asChild mb="12px">
      <fieldset>
        <chakra.legend srOnly>
          From {from} to {to}
        </chakra.legend>
        <Flex justify="space-between" fontSize="12.5px" mb="2px" aria-hidden>
          <span>{from}</span>
          <span>{to}</span>
        </Flex>
        <Flex
          justify="space-between"
          position="relative"
          css={{
            "&::before": {
              content: '""',
              position: "absolute",
              left: "8px",
              right: "8px",
              top: "11px",
              borderTop: "1px solid var(--m-colors-faded)",
            },
          }}
        >
          {STEPS.map((step) => (
            <chakra.input
              key={step}
              type="radio"
              name={name}
              aria-label={`${step + 1} of 5, from ${from} to ${to}`}
              checked={value === step}
              onChange={() => change(step)}
              w="22px"
              h="22px"
              position="relative"
              accentColor="var(--m-colors-ink)"
              cursor="pointer"
            />
          ))}
        </Flex>
      </fieldset>
    </Box>
  );
}
