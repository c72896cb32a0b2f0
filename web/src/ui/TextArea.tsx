import { Box, chakra } from "@chakra-ui/react";
import { type ComponentProps, type ReactNode, useId } from "react";

export const Area = chakra("textarea", {
  base: {
    bg: "card",
    color: "ink",
    borderWidth: "1px",
    borderColor: "faded",
    borderRadius: "3px",
    px: "10px",
    py: "6px",
    w: "100%",
    lineHeight: "20px",
    _invalid: { borderColor: "pimenton", borderWidth: "2px" },
  },
});

type Props = ComponentProps<typeof Area> & { label: string; error?: string; hint?: ReactNode };

/** A labelled field for several lines, with its error beside it. */
export function TextArea({ label, error, hint, ...rest }: Props) {
  const id = useId();
  return (
    <Box mb="14px">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      {hint && (
        <Box color="faded" fontSize="12px" lineHeight="16px" mb="4px">
          {hint}
        </Box>
      )}
      <Area
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
