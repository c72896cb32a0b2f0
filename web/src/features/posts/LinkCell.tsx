import { Box } from "@chakra-ui/react";
import { Input } from "@/ui/Field";
import { PutBack } from "./PutBack";

type Props = {
  label: string;
  value: string;
  change: (link: string) => void;
  inherited?: boolean;
  putBack?: () => void;
  error?: string;
};

/** The post's link. An inherited one shows the master's; typing in it makes it its own. */
export function LinkCell({ label, value, change, inherited, putBack, error }: Props) {
  return (
    <>
      {putBack && !inherited && <PutBack words={`Put ${label} back to the master`} press={putBack} />}
      <Input
        aria-label={inherited ? `${label}, inherited from the master` : label}
        aria-invalid={error ? true : undefined}
        inputMode="url"
        placeholder={putBack ? "Inherits the master" : "https://"}
        value={value}
        onChange={(e) => change(e.currentTarget.value)}
        color={inherited ? "faded" : "ink"}
        fontStyle={inherited ? "italic" : undefined}
        fontSize="13px"
        minH="30px"
        maxLength={2000}
      />
      {error && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {error}
        </Box>
      )}
    </>
  );
}
