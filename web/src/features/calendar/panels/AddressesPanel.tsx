import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { subscribe, unsubscribe } from "@/data/calendar";
import { useChanged } from "@/data/changes";
import { useSets } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Select } from "@/ui/Select";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useSubscriptions } from "../queries";

/** Secret addresses at which other calendar programs read the plan (iCalendar). */
export function AddressesPanel() {
  const { brand, me } = useBrandContext();
  const sets = useSets(brand.slug).data ?? [];
  const found = useSubscriptions(brand.slug).data ?? [];
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [of, setOf] = useState("brand");
  const [address, setAddress] = useState("");
  async function make() {
    const body = { profiles: /^\d+$/.test(of) ? Number(of) : null, mine: of === "mine" };
    await form.send(async () => {
      const made = await subscribe(brand.slug, body);
      setAddress(made.address);
    });
    await changed("subscription");
  }
  async function revoke(id: number) {
    await form.send(() => unsubscribe(brand.slug, id));
    await changed("subscription");
    toast("The address leads nowhere now.");
  }
  return (
    <>
      <Box color="faded" mb="12px">
        Whoever has an address sees what is planned there, in their own calendar program. It can be revoked at any time.
      </Box>
      <Select label="Of" value={of} onChange={(e) => setOf(e.currentTarget.value)} error={form.at("/profiles")}>
        <option value="brand">the whole of {brand.name}</option>
        <option value="mine">what I write or publish by hand</option>
        {sets.map((s) => (
          <option key={s.id} value={s.id}>
            the set {s.name}
          </option>
        ))}
      </Select>
      <Button kind="main" onClick={make} disabled={form.busy}>
        Make an address
      </Button>
      {address && (
        <Box mt="14px" p="10px" bg="wash" borderLeft="3px solid" borderColor="anil" role="status">
          <b>It is shown this once:</b>
          <Box overflowWrap="anywhere" fontSize="12px" my="6px" data-testid="address">
            {address}
          </Box>
          <Button minH="26px" onClick={() => navigator.clipboard?.writeText(address).then(() => toast("Copied."))}>
            Copy
          </Button>
        </Box>
      )}
      <Box mt="18px">
        {found.map((one) => (
          <Flex key={one.id} borderTopWidth="1px" borderColor="rule" py="6px" justify="space-between" align="center">
            <Box>
              {one.name}{" "}
              {!one.is_own && (
                <Box as="span" color="faded">
                  by {one.by}
                </Box>
              )}
              <Box color="faded" fontSize="12px">
                {one.last_read_at
                  ? `last read ${formatInstant(one.last_read_at, brand.zone, me.clock24)}`
                  : "not read yet"}
              </Box>
            </Box>
            <Button kind="quiet" onClick={() => revoke(one.id)}>
              Revoke
            </Button>
          </Flex>
        ))}
      </Box>
    </>
  );
}
