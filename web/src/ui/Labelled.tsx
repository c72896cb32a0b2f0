import { Box, chakra } from "@chakra-ui/react";
import { type ReactNode, useId } from "react";

/** What every field to type or choose in looks like. */
export const fieldLook = {
  bg: "card",
  color: "ink",
  borderWidth: "1px",
  borderColor: "faded",
  borderRadius: "3px",
  w: "100%",
  _invalid: { borderColor: "pimenton", borderWidth: "2px" },
} as const;

type Told = { id: string; "aria-invalid": true | undefined; "aria-describedby": string | undefined };
type Props = { label: string; error?: string; hint?: ReactNode; children: (told: Told) => ReactNode };

/** A label over a field, and its error under it, tied to it for those who hear the page. */
export function Labelled({ label, error, hint, children }: Props) {
  const id = useId();
  return (
    <Box mb="14px" minW="0">
      <chakra.label htmlFor={id} display="block" fontWeight="600" fontSize="13px" mb="4px">
        {label}
      </chakra.label>
      {hint && (
        <Box color="faded" fontSize="12px" lineHeight="16px" mb="4px">
          {hint}
        </Box>
      )}
      {children({ id, "aria-invalid": error ? true : undefined, "aria-describedby": error ? `${id}-e` : undefined })}
      {error && (
        <Box id={`${id}-e`} role="alert" color="pimenton" fontSize="13px" mt="4px">
          {error}
        </Box>
      )}
    </Box>
  );
}
