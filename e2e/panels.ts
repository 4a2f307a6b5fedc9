import type { Page } from "@playwright/test";

/** The panels of Operate by their groups. */
const groups: Record<string, string[]> = {
  see: ["Profile", "Around"],
  machine: ["Machine", "Positions", "Inputs"],
  camera: ["Camera", "Setups"],
  roll: ["Slate", "Devices"],
  takes: ["Takes"],
};

/** A side panel of Operate. */
export async function panel(page: Page, name: string) {
  const [group] = Object.entries(groups).find(([, names]) => names.includes(name))!;
  await page.getByRole("group", { name: "Tasks" }).getByRole("button", { name: group }).click();
  const panels = page.getByRole("group", { name: `Panels of ${group}` });
  await panels.getByRole("button", { name, exact: true }).click();
}
