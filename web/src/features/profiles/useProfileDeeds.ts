import { api, got, Problem, type Profile } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { say } from "@/ui/notices";
import { useProfilesChanged } from "./queries";

/** What is done with a profile at one press. Each says what came of it. */
export function useProfileDeeds() {
  const { brand } = useHere();
  const changed = useProfilesChanged(brand.slug);

  async function told(act: () => Promise<void>) {
    try {
      await act();
    } catch (error) {
      say(error instanceof Problem ? error.message : "That failed. Try again.", { wrong: true });
    }
    await changed();
  }
  /** Back to the network's own list, to add or drop profiles or to renew the connection. */
  const goAgain = (profile: Profile) =>
    told(async () => {
      const body = { network: profile.network, address: profile.site, return_to: "profiles" as const };
      const to = await got(
        api.POST("/api/brands/{brand}/connections", { params: { path: { brand: brand.slug } }, body }),
      );
      location.assign(to.go_to);
    });
  const check = (profile: Profile) =>
    told(async () => {
      const path = { brand: brand.slug, id: profile.id };
      const state = await got(api.POST("/api/brands/{brand}/profiles/{id}/check", { params: { path } }));
      if (state === "connected") say(`${profile.handle} is connected and ready.`);
      else
        say(`${profile.handle} is still ${state === "not_ready" ? "not ready" : state.replaceAll("_", " ")}.`, {
          wrong: true,
        });
    });
  const resume = (profile: Profile) =>
    told(async () => {
      if (!profile.paused) return;
      const path = { brand: brand.slug, id: profile.paused.id };
      await got(api.POST("/api/brands/{brand}/pauses/{id}/end", { params: { path } }));
      say(`${profile.handle} goes on. What is planned goes out on time.`);
    });
  return { goAgain, check, resume };
}
