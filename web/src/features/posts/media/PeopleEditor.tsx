import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Asset } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import type { Showing } from "../draft";
import { pictureOf } from "../proof/src";
import { Slide } from "./Slide";

type Props = { asset: Asset; showing: Showing; set: (more: Partial<Showing>) => void };

/** Tag people at their place in the picture: press where, say who. */
export function PeopleEditor({ asset, showing, set }: Props) {
  const { brand } = useBrandContext();
  const people = showing.people ?? [];
  const [place, setPlace] = useState({ x: 0.5, y: 0.5 });
  const [who, setWho] = useState("");
  const [wrong, setWrong] = useState("");
  const piece = {
    asset: asset.id,
    kind: asset.kind,
    turn: showing.turn ?? 0,
    crop: showing.crop ?? { x: 0, y: 0, w: 1, h: 1 },
  };

  function add(event: FormEvent) {
    event.preventDefault();
    if (!who.trim()) {
      setWrong("Say who it is: a handle, or a name.");
      return;
    }
    setWrong("");
    set({ people: [...people, { who: who.trim(), ...place }] });
    setWho("");
  }
  return (
    <Box as="section" aria-label="People in the picture" mt="18px">
      <Box as="h3" fontSize="16px" mb="6px">
        People
      </Box>
      <Box
        position="relative"
        w="fit-content"
        cursor="crosshair"
        data-testid="people-frame"
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          setPlace({ x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
        }}
      >
        <img
          src={pictureOf(`/media/${brand.slug}`, { ...piece, cover: null, cover_at: null }, 720)}
          alt=""
          style={{ maxWidth: "100%", maxHeight: 260, display: "block" }}
        />
        {[...people, { who: "", ...place }].map((person) => (
          <Box
            key={`${person.who}${person.x}${person.y}`}
            position="absolute"
            style={{ left: `${person.x * 100}%`, top: `${person.y * 100}%` }}
            w="12px"
            h="12px"
            m="-6px"
            borderRadius="50%"
            bg={person.who ? "#ffffff" : "#a8321a"}
            borderWidth="2px"
            borderColor="#000000a0"
            title={person.who}
          />
        ))}
      </Box>
      <Box display="grid" gap="4px" mt="6px">
        <Slide label="Place across" value={place.x} set={(x) => setPlace({ ...place, x })} />
        <Slide label="Place down" value={place.y} set={(y) => setPlace({ ...place, y })} />
      </Box>
      <chakra.form onSubmit={add} display="flex" gap="8px" mt="8px">
        <Input
          aria-label="Who is at the place marked"
          placeholder="@handle"
          value={who}
          maxLength={120}
          onChange={(e) => setWho(e.currentTarget.value)}
          aria-invalid={wrong ? true : undefined}
        />
        <Button type="submit">Tag</Button>
      </chakra.form>
      {wrong && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {wrong}
        </Box>
      )}
      {people.map((person, at) => (
        <Flex key={`${person.who}${person.x}${person.y}`} align="center" gap="8px">
          <Box flex="1">{person.who}</Box>
          <Button
            kind="quiet"
            aria-label={`Take the tag of ${person.who} off`}
            onClick={() => set({ people: people.filter((_, n) => n !== at) })}
          >
            ✕
          </Button>
        </Flex>
      ))}
    </Box>
  );
}
