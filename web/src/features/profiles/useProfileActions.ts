import { api, Problem, type Profile, unwrap } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { toast } from "@/ui/toasts";
import { useProfilesChanged } from "./queries";

/** What is done with a profile at one press. Each says what came of it. */
export function useProfileActions() {
  const { brand } = useBrandContext();
  const changed = useProfilesChanged(brand.slug);

  async function told(act: () => Promise<void>) {
    try {
      await act();
    } catch (error) {
      toast(error instanceof Problem ? error.message : "That failed. Try again.", { wrong: true });
    }
    await changed();
  }
  /** Back to the network's own list, to add or drop profiles or to renew the connection. */
  const goAgain = (profile: Profile) =>
    told(async () => {
      const body = { network: profile.network, address: profile.site, return_to: "profiles" as const };
      const to = await unwrap(
        api.POST("/api/brands/{brand}/connections", { params: { path: { brand: brand.slug } }, body }),
      );
      location.assign(to.go_to);
    });
  const check = (profile: Profile) =>
    told(async () => {
      const path = { brand: brand.slug, profile_id: profile.id };
      const state = await unwrap(api.POST("/api/brands/{brand}/profiles/{profile_id}/check", { params: { path } }));
      if (state === "connected") toast(`${profile.handle} is connected and ready.`);
      else
        toast(`${profile.handle} is still ${state === "not_ready" ? "not ready" : state.replaceAll("_", " ")}.`, {
          wrong: true,
        });
    });
  const resume = (profile: Profile) =>
    told(async () => {
      if (!profile.paused) return;
      const path = { brand: brand.slug, pause_id: profile.paused.id };
      await unwrap(api.POST("/api/brands/{brand}/pauses/{pause_id}/end", { params: { path } }));
      toast(`${profile.handle} goes on. What is planned goes out on time.`);
    });
  return { goAgain, check, resume };
}
