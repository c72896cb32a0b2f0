import { Box } from "@chakra-ui/react";
import { useBrandContext } from "@/app/brandContext";
import { Loading } from "@/ui/Loading";
import { SidePanel } from "@/ui/SidePanel";
import type { BenchColumn } from "../draft";
import { usePlace } from "../place";
import { useCompare } from "../queries";
import { Diff } from "./Diff";

type Props = { label: string; part: "text" | "first_comment" | "link"; column: BenchColumn; close: () => void };

/** A version's text beside the master's: what differs. */
export function Compare({ label, part, column, close }: Props) {
  const { brand } = useBrandContext();
  const draft = usePlace().now();
  const found = useCompare(brand.slug, draft.master[part] ?? "", draft.overrides[column.key]?.[part] ?? "");
  return (
    <SidePanel title={`${label} and the master`} open close={close}>
      <Box color="faded" mb="12px">
        Struck through is the master's alone; underlined is this column's own.
      </Box>
      {found.data ? <Diff segments={found.data} /> : <Loading />}
    </SidePanel>
  );
}
