import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { saveSpacing } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

/** What the profile wishes of its spacing, and the hours in which its times may vary. */
export function SpacingForm({ profile, kept }: { profile: Profile; kept: Schemas["SpacingIO"] }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [values, setValues] = useState({
    ...kept,
    waking_from: kept.waking_from.slice(0, 5),
    waking_until: kept.waking_until.slice(0, 5),
  });
  const number = (text: string) => (text === "" ? null : Number(text));
  async function send(event: FormEvent) {
    event.preventDefault();
    if (!(await form.send(() => saveSpacing(brand.slug, profile.id, values)))) return;
    await changed("profile");
    toast(`What ${profile.handle} wishes is kept.`);
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
        value={values.max_gap_days ?? ""}
        onChange={(e) => setValues({ ...values, max_gap_days: number(e.currentTarget.value) })}
        error={form.at("/max_gap_days")}
      />
      <Field
        label="Minutes between two posts, at least"
        type="number"
        min={1}
        max={20160}
        disabled={disabled}
        value={values.min_gap_minutes ?? ""}
        onChange={(e) => setValues({ ...values, min_gap_minutes: number(e.currentTarget.value) })}
        error={form.at("/min_gap_minutes")}
      />
      <Field
        label="Days before the same media or text returns"
        type="number"
        min={1}
        max={365}
        disabled={disabled}
        value={values.min_repeat_days ?? ""}
        onChange={(e) => setValues({ ...values, min_repeat_days: number(e.currentTarget.value) })}
        error={form.at("/min_repeat_days")}
      />
      <Flex gap="8px">
        <Field
          label="Times vary from"
          type="time"
          disabled={disabled}
          value={values.waking_from}
          onChange={(e) => setValues({ ...values, waking_from: e.currentTarget.value })}
          error={form.at("/waking_from")}
          required
        />
        <Field
          label="to"
          type="time"
          disabled={disabled}
          value={values.waking_until}
          onChange={(e) => setValues({ ...values, waking_until: e.currentTarget.value })}
          error={form.at("/waking_until")}
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
