import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useProfiles } from "@/features/profiles/queries";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Input } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { Board, BoardKey, groupOf, rowKey, type Spot } from "./Board";
import { CellPanel } from "./CellPanel";
import { useBoard } from "./queries";
import { RelaysHead } from "./RelaysHead";
import { StartingPointsPanel } from "./StartingPointsPanel";

/** So many profiles are all shown as sources; of more, those with relays and those asked for. */
const FEW = 6;
const MANY = 14;

/** The relay board. */
export function RelaysPage() {
  const { brand, may } = useBrandContext();
  const { open: opened } = useSearch({ from: "/$brand/relays" });
  const navigate = useNavigate({ from: "/$brand/relays" });
  const found = useBoard(brand.slug);
  const profiles = useProfiles(brand.slug).data;
  const [spot, setSpot] = useState<Spot | null>(null);
  const [starting, setStarting] = useState(false);
  const [words, setWords] = useState("");
  const [added, setAdded] = useState<string[]>([]);
  const board = found.data;
  const targets = useMemo(() => {
    const wanted = words.trim().toLowerCase();
    const all = (profiles ?? []).filter((p) => p.state !== "disconnected");
    const hit = all.filter((p) => `${p.display_name} ${p.handle} ${p.network}`.toLowerCase().includes(wanted));
    return wanted && hit.length ? hit : all;
  }, [profiles, words]);
  const [rows, hidden] = useMemo(() => {
    const place = new Map((profiles ?? []).map((p, n) => [`p${p.id}`, n]));
    const rank = (row: { key: string; kind: string }) =>
      row.kind === "profile" ? (place.get(row.key) ?? 0) : place.size;
    const all = [...(board?.rows ?? [])].sort((a, b) => rank(a) - rank(b));
    const busy = new Set(board?.cells.map((cell) => rowKey(cell.source)));
    const few = all.filter((row) => row.kind === "profile").length <= FEW || busy.size === 0;
    const shows = (row: (typeof all)[number]) =>
      busy.has(rowKey(row)) ||
      added.includes(rowKey(row)) ||
      row.kind === "feed" ||
      row.kind === "catalogue" ||
      (row.kind === "profile" && few);
    return [all.filter(shows), all.filter((row) => !shows(row))];
  }, [board, profiles, added]);
  if (found.error && !board) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!board || !profiles) return <Loading />;
  const byLink = board.cells.find((cell) => cell.id === opened);
  const named = byLink && board.rows.find((row) => rowKey(row) === rowKey(byLink.source));
  const aimed = byLink && profiles.find((p) => p.id === byLink.target);
  const open = spot ?? (named && aimed ? { row: named, target: aimed } : null);
  const cell =
    open && board.cells.find((one) => rowKey(one.source) === rowKey(open.row) && one.target === open.target.id);
  const close = () => {
    setSpot(null);
    if (opened) void navigate({ search: {} });
  };
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" minW="0">
      <RelaysHead title="Relay board" about="What appears on the left is carried to the profiles at the top.">
        {may("publish") && profiles.length > 0 && (
          <Button kind={board.cells.length ? "plain" : "main"} onClick={() => setStarting(true)}>
            Starting points
          </Button>
        )}
      </RelaysHead>
      {profiles.length === 0 ? (
        <EmptyState
          title="No profile yet"
          words="Relays lead to profiles. Connect one first, under the brand’s name."
        />
      ) : (
        <>
          {board.cycles.length > 0 && (
            <Bar tone="pimenton" role="status">
              {board.cycles.length === 1 ? "A ring" : `${board.cycles.length} rings`} of relays: what goes round is
              stopped where it has been already.
            </Bar>
          )}
          <Flex gap="8px 12px" align="center" flexWrap="wrap" my="8px">
            <BoardKey />
            <Box flex="1" />
            {hidden.length > 0 && (
              <Picker
                aria-label="Show another source"
                w="190px"
                value=""
                onChange={(e) => setAdded([...added, e.currentTarget.value])}
              >
                <option value="">Show another source …</option>
                {hidden.map((row) => (
                  <option key={rowKey(row)} value={rowKey(row)}>
                    {`${groupOf(row)}: ${row.name}`}
                  </option>
                ))}
              </Picker>
            )}
            {profiles.length > MANY && (
              <Input
                aria-label="Find a profile"
                placeholder="Find a profile"
                w="160px"
                value={words}
                onChange={(e) => setWords(e.currentTarget.value)}
              />
            )}
          </Flex>
          <Board board={board} rows={rows} targets={targets} open={open} press={setSpot} />
        </>
      )}
      {open && (
        <CellPanel key={`${rowKey(open.row)}>${open.target.id}`} spot={open} cell={cell ?? null} close={close} />
      )}
      {starting && <StartingPointsPanel close={() => setStarting(false)} />}
    </Box>
  );
}
