import { Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { type Delivery, Problem } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { wallWords } from "@/ui/times";
import { useDeliveryDeeds } from "./queries";

/** Another day and time, typed. */
export function MoveForm({ delivery, handle }: { delivery: Delivery; handle: string }) {
  const { brand, me } = useHere();
  const { move } = useDeliveryDeeds(brand.slug);
  const [wrong, setWrong] = useState("");
  const [date, time] = (delivery.wall ?? "").split("T");

  async function send(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const wall = `${form.get("date")}T${form.get("time")}`;
    setWrong("");
    try {
      await move.mutateAsync({
        id: delivery.id,
        revision: delivery.revision,
        wall,
        words: `Moved ${handle} to ${wallWords(wall, me.clock24)}.`,
      });
    } catch (error) {
      if (error instanceof Problem) setWrong(error.at("/wall") ?? "");
    }
  }
  return (
    <form onSubmit={send} key={delivery.revision}>
      <Flex gap="8px" align="flex-end" flexWrap="wrap">
        <Field label="Day" name="date" type="date" defaultValue={date} required error={wrong} />
        <Field label="Time" name="time" type="time" defaultValue={time?.slice(0, 5)} required />
        <Button type="submit" mb="14px">
          Move
        </Button>
      </Flex>
    </form>
  );
}
