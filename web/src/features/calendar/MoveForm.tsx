import { Flex } from "@chakra-ui/react";
import { useIsMutating } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { type Delivery, Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { formatWallTime, wallTimeIn } from "@/ui/times";
import { WallTimeInput } from "@/ui/WallTimeInput";
import { useDeliveryActions } from "./queries";

/** Another day and time, typed in the brand's zone, whatever zone it was meant in before. */
export function MoveForm({ delivery, handle }: { delivery: Delivery; handle: string }) {
  const { brand, me } = useBrandContext();
  const { move } = useDeliveryActions(brand.slug);
  const busy = useIsMutating() > 0;
  const [wrong, setWrong] = useState<string>();
  const [wall, setWall] = useState(delivery.due_at ? wallTimeIn(delivery.due_at, brand.zone) : "T");
  const [date = "", time = ""] = wall.split("T");

  async function send(event: FormEvent) {
    event.preventDefault();
    setWrong(undefined);
    try {
      await move.mutateAsync({
        id: delivery.id,
        revision: delivery.revision,
        wall,
        words: `Moved ${handle} to ${formatWallTime(wall, me.clock24)}.`,
      });
    } catch (error) {
      if (error instanceof Problem) setWrong(error.at("/wall_time"));
    }
  }
  return (
    <form onSubmit={send} aria-label="Move to another time">
      <Flex gap="8px" align="flex-start">
        <WallTimeInput
          date={date}
          time={time}
          zone={brand.zone}
          change={(d, t) => setWall(`${d}T${t}`)}
          error={wrong}
        />
        <Button type="submit" minH="36px" disabled={busy}>
          Move
        </Button>
      </Flex>
    </form>
  );
}
