import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { api, got, type Profile } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { say } from "@/ui/notices";
import { useForm } from "@/ui/useForm";
import { useProfilesChanged } from "./queries";

/** What the profile wishes of its spacing, and the hours in which its times may vary. */
export function Wishes({ profile }: { profile: Profile }) {
  const { brand, may } = useHere();
  const changed = useProfilesChanged(brand.slug);
  const form = useForm();
  const [said, setSaid] = useState({
    ...profile.wishes,
    wakes: profile.wishes.wakes.slice(0, 5),
    sleeps: profile.wishes.sleeps.slice(0, 5),
  });
  const number = (text: string) => (text === "" ? null : Number(text));
  async function send(event: FormEvent) {
    event.preventDefault();
    const params = { path: { brand: brand.slug, id: profile.id } };
    if (!(await form.send(() => got(api.PUT("/api/brands/{brand}/profiles/{id}/wishes", { params, body: said })))))
      return;
    await changed();
    say(`What ${profile.handle} wishes is kept.`);
  }
  const disabled = !may("manage_profiles");
  return (
    <chakra.form onSubmit={send} mt="14px" borderTopWidth="1px" borderColor="rule" pt="10px">
      <Box as="h3" fontSize="16px">
        Spacing
      </Box>
      <Box color="faded" fontSize="12px" mb="8px">
        Advice on the calendar, never a wall. Empty: no wish.
      </Box>
      <Field
        label="Days without a post, at most"
        type="number"
        min={0}
        max={365}
        disabled={disabled}
        value={said.most_days ?? ""}
        onChange={(e) => setSaid({ ...said, most_days: number(e.currentTarget.value) })}
        error={form.at("/most_days")}
      />
      <Field
        label="Minutes between two posts, at least"
        type="number"
        min={1}
        max={20160}
        disabled={disabled}
        value={said.least_minutes ?? ""}
        onChange={(e) => setSaid({ ...said, least_minutes: number(e.currentTarget.value) })}
        error={form.at("/least_minutes")}
      />
      <Field
        label="Days before the same media or text returns"
        type="number"
        min={1}
        max={365}
        disabled={disabled}
        value={said.repeat_days ?? ""}
        onChange={(e) => setSaid({ ...said, repeat_days: number(e.currentTarget.value) })}
        error={form.at("/repeat_days")}
      />
      <Flex gap="8px">
        <Field
          label="Times vary from"
          type="time"
          disabled={disabled}
          value={said.wakes}
          onChange={(e) => setSaid({ ...said, wakes: e.currentTarget.value })}
          error={form.at("/wakes")}
          required
        />
        <Field
          label="to"
          type="time"
          disabled={disabled}
          value={said.sleeps}
          onChange={(e) => setSaid({ ...said, sleeps: e.currentTarget.value })}
          error={form.at("/sleeps")}
          required
        />
      </Flex>
      {!disabled && (
        <Button type="submit" disabled={form.busy}>
          Keep
        </Button>
      )}
    </chakra.form>
  );
}
