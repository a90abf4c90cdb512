import { expect, test } from "./server";

const LOG = `Bench log
,,Bench A,,Bench B,
block,lamp,depth,leak rate,depth,leak rate
1,L1,2.41,<0.5,2.43,0.8
,L2,2.42,0.9,2.44,0.7
2,L3,2.40,0.8,2.42,0.6
,L4,2.43,0.6,2.45,0.9
Subtotal,,9.66,,9.74,
3,L5,2.41,0.7,2.40,0.9
,L6,2.42,0.9,2.39,0.8
Total,,14.49,,14.53,
`;

test("a messy file is mended where it is asked about, and the next of its layout is read alike", async ({
  page,
  server,
}) => {
  const bring = async (name: string) => {
    await page.goto(`${server.address}/data`);
    await page.getByLabel("File to bring in").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(LOG) });
    await expect(page.getByRole("heading", { name: "Did we read it right?" })).toBeVisible();
  };
  await bring("may log.csv");
  const notes = page.getByRole("complementary", { name: "Read as" });
  await expect(notes).toContainText("Lines 2 and 3 together name the columns.");
  await expect(notes).toContainText("Lines 8 and 11 are totals: left out.");
  await expect(notes).toContainText("one value is a bound “<0.5”, kept as 0.5");
  const rows = page.getByRole("region", { name: "First rows" }).getByRole("row");
  await expect(rows.nth(2)).not.toContainText("1L2");
  await notes.getByRole("button", { name: "Fill them down" }).click();
  await expect(rows.nth(2)).toContainText("1L2");
  // What was chosen is still there after a reload.
  await page.reload();
  await expect(rows.nth(2)).toContainText("1L2");
  await page.getByRole("button", { name: "Bring in 6 rows" }).click();
  await expect(page.getByRole("columnheader", { name: /^Bench A leak rate sign/ })).toBeVisible();

  await bring("june log.csv");
  await expect(page.getByText("corrected the last file of this layout")).toBeVisible();
  await expect(rows.nth(2)).toContainText("1L2");
  await page.getByRole("button", { name: "Read it as it seems" }).click();
  await expect(rows.nth(2)).not.toContainText("1L2");
  await expect(page.getByText("corrected the last file of this layout")).toBeHidden();
  // Pieces side by side are offered as rows of their own.
  await page.goto(`${server.address}/data`);
  const wide = Buffer.from("at,x1,x2,x3\n06:00,2.4,2.5,2.6\n07:00,2.7,2.8,2.9\n");
  await page.getByLabel("File to bring in").setInputFiles({ name: "wide.csv", mimeType: "text/csv", buffer: wide });
  await page.getByRole("checkbox", { name: /Unfold into a row a reading/ }).check();
  await page.getByRole("button", { name: "Bring in 6 rows" }).click();
  await expect(page.getByRole("columnheader", { name: /^piece/ })).toBeVisible();
});
