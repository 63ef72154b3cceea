import { describe, expect, test } from "@jest/globals";
import { COMPLAINTS, complaintWords, PLAIN_CAUSES, triage } from "./complaints";

describe("the talk at the counter", () => {
  test("a plain cause and nothing systemic may end the job", () => {
    const answer = triage(["slow-crank"], ["key-left-on"]);
    expect(answer.kind).toBe("plain");
    if (answer.kind === "plain") expect(answer.advice).toEqual([PLAIN_CAUSES[0].advice]);
  });

  test.each(COMPLAINTS.filter((complaint) => complaint.systemic).map((complaint) => complaint.id))("%s goes to the bench whatever the plain cause", (id) => {
    expect(triage([id], ["key-left-on", "short-hops"]).kind).toBe("test");
  });

  test("without a plain cause there is always something to test", () => {
    expect(triage([], []).kind).toBe("test");
    expect(triage(["sat-long"], []).kind).toBe("test");
  });

  test("every plain cause ends with something to do", () => {
    for (const cause of PLAIN_CAUSES) {
      const answer = triage([], [cause.id]);
      expect(answer.kind === "plain" && answer.advice.every((line) => line.length > 20)).toBe(true);
    }
  });

  test("chips are spoken in their own words, unknown ones as they stand", () => {
    expect(complaintWords(["no-crank", "purrs"])).toEqual(["Clicks, no crank", "purrs"]);
  });
});
