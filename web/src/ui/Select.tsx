import { Box, chakra } from "@chakra-ui/react";
import { type ComponentProps, useId } from "react";

export const Picker = chakra("select", {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "1px",
    borderColor: "faded",
    borderRadius: "3px",
    minHeight: "34px",
    px: "8px",
    maxW: "100%",
    w: "100%",
    _invalid: { borderColor: "pimenton", borderWidth: "2px" },
  },
});

type Props = ComponentProps<typeof Picker> & { label: string; error?: string };

/** A labelled choice with its error beside it. */
export function Select({ label, error, children, ...rest }: Props) {
  const id = useId();
  return (
    <Box mb="14px" minW="0">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      <Picker
        id={id}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-e` : undefined}
        {...rest}
      >
        {children}
      </Picker>
      {error && (
        <Box id={`${id}-e`} role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error}
        </Box>
      )}
    </Box>
  );
}
