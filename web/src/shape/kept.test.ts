import { expect, it } from "vitest";
import type { Described, Move, Treatment } from "../generated/types";
import { fileOf, readTreatments, withOthers } from "./kept";

const kind = (name: string, level: Described["level"]) => ({ name, level }) as Described;
const kinds = [kind("retime", "time"), kind("smooth", "machine"), kind("shake", "camera")];
const of = (kind: string, id: number) => ({ id, on: true, kind }) as unknown as Move["treatments"][number];
const plain = (kind: string) => ({ on: true, kind }) as unknown as Treatment;

it("treatments go into a file without the numbers they have in their move, and come back", () => {
  const file = fileOf([of("smooth", 4), of("shake", 9)]);
  expect(file).toEqual({ rovnek: "treatments", treatments: [plain("smooth"), plain("shake")] });
  expect(readTreatments(JSON.stringify(file), "calm.json", kinds)).toEqual(file.treatments);
});

it("a file that holds none says so by its name", () => {
  expect(readTreatments("{", "x.json", kinds)).toContain("x.json is no JSON");
  expect(readTreatments("[]", "x.json", kinds)).toContain("x.json holds no treatments");
  expect(readTreatments('{"rovnek":"treatments","treatments":[]}', "x.json", kinds)).toContain("holds no");
  const strange = JSON.stringify({ rovnek: "treatments", treatments: [{ kind: "polish" }] });
  expect(readTreatments(strange, "x.json", kinds)).toContain("the kind polish");
});

it("others come to the end of their own bands, and only those that the machine can use", () => {
  const list = withOthers(
    [of("smooth", 1), of("shake", 2)],
    [plain("retime"), plain("smooth"), plain("shake")],
    kinds,
    ["smooth", "retime"],
  );
  expect(list.map((t) => [t.kind, t.id > 0])).toEqual([
    ["retime", false],
    ["smooth", true],
    ["smooth", false],
    ["shake", true],
  ]);
});
