import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Delivery } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { useDeliveryActions } from "./queries";

/** It may have gone out: a person looks, and says. */
export function SettleForm({ delivery, network }: { delivery: Delivery; network: string }) {
  const { brand } = useBrandContext();
  const { settle } = useDeliveryActions(brand.slug);
  const [url, setUrl] = useState("");
  const say = (isThere: boolean) =>
    settle.mutate({ id: delivery.id, revision: delivery.revision, isThere, url: isThere ? url : "" });
  return (
    <Box>
      <Field
        label={`Its address on ${network}, if it is there`}
        value={url}
        onChange={(e) => setUrl(e.currentTarget.value)}
        inputMode="url"
      />
      <Flex gap="8px">
        <Button onClick={() => say(true)}>It is there</Button>
        <Button onClick={() => say(false)}>It is not: send it</Button>
      </Flex>
    </Box>
  );
}
