import { Box, chakra } from "@chakra-ui/react";
import { useBrandContext } from "@/app/brandContext";
import { byArrows, type ShelfProps } from "./MediaGrid";
import { formatBytes } from "./queries";

const table = {
  "& th, & td": {
    textAlign: "left",
    padding: "6px 12px 6px 0",
    borderTop: "1px solid var(--m-colors-rule)",
    verticalAlign: "middle",
  },
  "& th": { fontSize: "12px", fontWeight: 600, color: "var(--m-colors-faded)" },
} as const;

/** Media as lines, with everything that is known of each. */
export function MediaList({ assets, chosen, toggle, open }: ShelfProps) {
  const { brand } = useBrandContext();
  return (
    <Box overflowX="auto" tabIndex={0} role="region" aria-label="Media as a list">
      <Box as="table" w="100%" css={table} onKeyDown={(event) => byArrows(event as never, 1)}>
        <thead>
          <tr>
            <th>
              <span className="sr-only">Chosen</span>
            </th>
            <th>Picture</th>
            <th>Name</th>
            <th>Alt text</th>
            <th>Labels</th>
            <th>Pixels</th>
            <th>Size</th>
            <th>Used</th>
          </tr>
        </thead>
        <tbody>
          {assets.map((asset) => (
            <tr key={asset.id}>
              <td>
                <chakra.input
                  type="checkbox"
                  aria-label={`Choose ${asset.name}`}
                  checked={chosen.includes(asset.id)}
                  onChange={() => undefined}
                  onClick={(e) => toggle(asset.id, e.shiftKey)}
                  w="24px"
                  h="24px"
                  accentColor="var(--m-colors-anil)"
                />
              </td>
              <td>
                <img
                  src={`/media/${brand.slug}/${asset.id}/thumb`}
                  alt=""
                  loading="lazy"
                  style={{ maxWidth: 72, maxHeight: 48 }}
                />
              </td>
              <td>
                <chakra.button
                  type="button"
                  data-asset={asset.id}
                  fontWeight="600"
                  minH="24px"
                  cursor="pointer"
                  onClick={() => open(asset.id)}
                >
                  {asset.name}
                </chakra.button>
                {asset.credit && <Box color="faded">by {asset.credit}</Box>}
              </td>
              <td>{asset.alt || <Box color="maizeInk">none</Box>}</td>
              <td>{asset.labels.join(", ")}</td>
              <td style={{ whiteSpace: "nowrap", fontVariantNumeric: "tabular-nums" }}>
                {asset.width} × {asset.height}
                {asset.seconds !== null && ` · ${Math.round(asset.seconds)} s`}
              </td>
              <td style={{ whiteSpace: "nowrap" }}>{formatBytes(asset.size)}</td>
              <td>{asset.used_in}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
