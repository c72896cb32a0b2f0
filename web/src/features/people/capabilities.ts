/** What each capability lets a person do, in words. Which there are, and which a role has, the server says. */
export const CAPABILITY_LABELS: Record<string, string> = {
  write: "Write posts",
  edit_others: "Edit others' posts",
  sign_off: "Sign off",
  publish: "Plan and publish",
  delete: "Delete",
  manage_profiles: "Manage profiles",
  manage_people: "Manage people",
  answer: "Answer messages",
  results: "See results",
};
