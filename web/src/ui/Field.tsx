import { Box, chakra } from "@chakra-ui/react";
import { type ComponentProps, useId } from "react";

export const Input = chakra("input", {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "1px",
    borderColor: "faded",
    borderRadius: "3px",
    px: "10px",
    py: "6px",
    minHeight: "34px",
    w: "100%",
    fontVariantNumeric: "tabular-nums",
    _invalid: { borderColor: "pimenton", borderWidth: "2px" },
  },
});

type Props = ComponentProps<typeof Input> & { label: string; error?: string };

/** A labelled input with its error beside it. */
export function Field({ label, error, ...rest }: Props) {
  const id = useId();
  return (
    <Box mb="14px">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      <Input
        id={id}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-e` : undefined}
        {...rest}
      />
      {error && (
        <Box id={`${id}-e`} role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error}
        </Box>
      )}
    </Box>
  );
}
