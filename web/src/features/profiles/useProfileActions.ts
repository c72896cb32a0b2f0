import { Problem, type Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { checkProfile, endPause } from "@/data/delivery";
import { connect } from "@/data/profiles";
import { toast } from "@/ui/toasts";

/** What is done with a profile at one press. Each says what came of it. */
export function useProfileActions() {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);

  async function told(act: () => Promise<void>) {
    try {
      await act();
    } catch (error) {
      toast(error instanceof Problem ? error.message : "That failed. Try again.", { wrong: true });
    }
    await changed("profile");
  }
  /** Back to the network's own list, to add or drop profiles or to renew the connection. */
  const goAgain = (profile: Profile) =>
    told(async () => {
      const body = { network: profile.network, address: profile.site, return_to: "profiles" as const };
      const to = await connect(brand.slug, body);
      location.assign(to.go_to);
    });
  const check = (profile: Profile) =>
    told(async () => {
      const state = await checkProfile(brand.slug, profile.id);
      if (state === "connected") toast(`${profile.handle} is connected and ready.`);
      else
        toast(`${profile.handle} is still ${state === "not_ready" ? "not ready" : state.replaceAll("_", " ")}.`, {
          wrong: true,
        });
    });
  const resume = (profile: Profile) =>
    told(async () => {
      if (!profile.paused) return;
      await endPause(brand.slug, profile.paused.id);
      toast(`${profile.handle} goes on. What is planned goes out on time.`);
    });
  return { goAgain, check, resume };
}
