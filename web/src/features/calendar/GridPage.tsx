import { Box, chakra, Flex } from "@chakra-ui/react";
import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { type KeyboardEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { calendarQueries, swapTimes } from "@/data/calendar";
import { useChanged } from "@/data/changes";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatWallTime, formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { QUIET } from "./board/BoardFrame";
import { told, useUndo } from "./queries";

type Tile = Schemas["TileOut"];

/** The grid proof: a page of pictures as it will be. Two planned tiles change places by swapping their times. */
export function GridPage() {
  const { brand, me } = useBrandContext();
  const { profile } = useParams({ from: "/$brand/grid/$profile" });
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const [lifted, setLifted] = useState<Tile | null>(null);
  const id = Number(profile);
  const grid = useQuery(calendarQueries.grid(brand.slug, id));
  if (grid.error && !grid.data) return <QueryFailed error={grid.error} again={() => grid.refetch()} />;
  if (!grid.data) return <Loading />;
  const { tiles, handle, zone, ratio } = grid.data;
  const when = (tile: Tile) => (tile.wall_time ? formatWallTime(tile.wall_time, me.clock24) : "");

  async function swap(one: Tile, other: Tile) {
    if (one.delivery === other.delivery) return;
    try {
      const side = (tile: Tile) => ({ id: tile.delivery, revision: tile.revision });
      const body = { one: side(one), other: side(other) };
      const done = await swapTimes(brand.slug, body);
      toast(
        `Swapped: ${one.headline || "the one"} goes out ${when(other)}, ${other.headline || "the other"} ${when(one)}.`,
        {
          undo: () => undo(done.undo),
        },
      );
    } catch (error) {
      toast(told(error as Error), { wrong: true });
    }
    await changed("delivery");
  }
  function ended({ active, over }: DragEndEvent) {
    const one = tiles.find((t) => t.delivery === active.id);
    const other = tiles.find((t) => t.delivery === over?.id);
    if (one && other?.moves) void swap(one, other);
    else if (one && other) toast("What is out already keeps its place.", { wrong: true });
  }
  function pressed(event: KeyboardEvent, tile: Tile) {
    if (event.key === " ") {
      event.preventDefault();
      if (lifted) {
        const one = lifted;
        setLifted(null);
        void swap(one, tile);
      } else if (tile.moves) setLifted(tile);
      else toast("What is out already keeps its place.", { wrong: true });
    } else if (event.key === "Escape") setLifted(null);
  }
  return (
    <Box px={{ base: "12px", md: "24px" }} py="14px" w="100%" maxW="760px">
      <Box as="h1" fontSize="28px" lineHeight="32px">
        Grid proof of {handle}
      </Box>
      <Box color="faded" mb="12px">
        What its page will look like, the newest first, in {formatZone(zone)}. Drag a planned tile onto another, or lift
        it with space: their times swap, the posts stay as they are.
      </Box>
      {tiles.length === 0 && (
        <EmptyState title="Nothing to see yet" words="Planned and published posts of this profile stand here in order.">
          <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: "new" }} search={{ profile: id }}>
            Begin a post
          </Link>
        </EmptyState>
      )}
      <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={ended} accessibility={QUIET}>
        <Box as="ul" listStyleType="none" display="grid" gridTemplateColumns="repeat(3, minmax(0, 1fr))" gap="4px">
          {tiles.map((tile) => (
            <GridTile
              key={tile.delivery}
              tile={tile}
              ratio={ratio}
              when={when(tile)}
              lifted={lifted?.delivery === tile.delivery}
              pressed={(e) => pressed(e, tile)}
            />
          ))}
        </Box>
      </DndContext>
      <Box aria-live="assertive" position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
        {lifted && `${lifted.headline} is lifted. Space on another tile swaps their times, escape puts it back.`}
      </Box>
    </Box>
  );
}

type TileProps = { tile: Tile; ratio: number; when: string; lifted: boolean; pressed: (event: KeyboardEvent) => void };

function GridTile({ tile, ratio, when, lifted, pressed }: TileProps) {
  const { brand, may } = useBrandContext();
  const movable = tile.moves && may("publish");
  const drag = useDraggable({ id: tile.delivery, disabled: !movable });
  const drop = useDroppable({ id: tile.delivery });
  const move = drag.transform;
  return (
    <Box
      as="li"
      ref={drop.setNodeRef}
      style={{ aspectRatio: ratio }}
      outline={drop.isOver ? "3px solid" : undefined}
      outlineColor={tile.moves ? "anil" : "pimenton"}
      bg="wash"
    >
      <chakra.button
        ref={drag.setNodeRef}
        type="button"
        {...drag.listeners}
        onKeyDown={pressed}
        data-tile={tile.delivery}
        aria-label={`${tile.thumb ? when : `${tile.headline || "no picture"} ${when}`}, ${tile.headline || "no words yet"}, ${stateWords(tile.state)}${lifted ? ", lifted" : ""}`}
        position="relative"
        display="block"
        w="100%"
        h="100%"
        overflow="hidden"
        cursor={movable ? "grab" : "default"}
        outlineOffset="-3px"
        boxShadow={lifted ? "0 0 0 4px var(--m-colors-anil)" : undefined}
        style={move ? { transform: `translate(${move.x}px, ${move.y}px)`, zIndex: 10 } : undefined}
      >
        {tile.thumb ? (
          <Box asChild w="100%" h="100%" objectFit="cover">
            <img src={`/media/${brand.slug}/${tile.thumb}/thumb`} alt="" draggable={false} />
          </Box>
        ) : (
          <Box p="10px" fontSize="12px">
            {tile.headline || "no picture"}
          </Box>
        )}
        <Flex
          position="absolute"
          left="0"
          right="0"
          bottom="0"
          px="8px"
          py="4px"
          gap="6px"
          align="center"
          bg="card"
          color="ink"
          fontSize="12px"
          fontVariantNumeric="tabular-nums"
          opacity="0.94"
        >
          <StateShape state={tile.state} size={12} /> {when}
        </Flex>
      </chakra.button>
    </Box>
  );
}
