import { Box, chakra, Flex } from "@chakra-ui/react";
import { useId } from "react";
import { Picker } from "@/ui/Select";

type Id = string | number;
type Props = {
  label: string;
  none: string;
  options: { id: Id; name: string }[];
  chosen: Id[];
  change: (chosen: Id[]) => void;
  error?: string;
  ordered?: boolean;
};

const Chip = chakra("button", {
  base: {
    display: "inline-flex",
    alignItems: "center",
    gap: "6px",
    minHeight: "28px",
    px: "8px",
    bg: "wash",
    borderWidth: "1px",
    borderColor: "rule",
    borderRadius: "3px",
    cursor: "pointer",
    _after: { content: '"✕"', color: "faded" },
  },
});

/** Several of many, each as a chip that is taken out at a press, in the order they were put in. */
export function Chosen({ label, none, options, chosen, change, error, ordered }: Props) {
  const id = useId();
  const named = (one: Id) => options.find((o) => o.id === one)?.name ?? "somebody who has left";
  const left = options.filter((o) => !chosen.includes(o.id));
  return (
    <Box mb="12px">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      <Flex gap="6px" flexWrap="wrap" align="center">
        {chosen.map((one, n) => (
          <Chip
            key={one}
            type="button"
            aria-label={`${ordered ? `${n + 1}. ` : ""}${named(one)}, take out`}
            onClick={() => change(chosen.filter((c) => c !== one))}
          >
            {ordered ? `${n + 1}. ` : ""}
            {named(one)}
          </Chip>
        ))}
        <Picker
          id={id}
          w="auto"
          value=""
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-e` : undefined}
          onChange={(e) => {
            const found = options.find((o) => String(o.id) === e.currentTarget.value);
            if (found) change([...chosen, found.id]);
          }}
        >
          <option value="">{chosen.length === 0 ? none : "and …"}</option>
          {left.map((o) => (
            <option key={o.id} value={String(o.id)}>
              {o.name}
            </option>
          ))}
        </Picker>
      </Flex>
      {error && (
        <Box id={`${id}-e`} role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error}
        </Box>
      )}
    </Box>
  );
}
