import { describe, expect, test } from "@jest/globals";
import { swapTells } from "./swap";

describe("a known-good unit there and back", () => {
  test("proves only by its second change", () => {
    expect(swapTells([12.1], 12)).toEqual({ says: undefined, words: "" });
    expect(swapTells([12.1, 14.2], 12)).toMatchObject({ says: undefined, words: expect.stringContaining("put its own back") });
    expect(swapTells([12.1, 14.2, 12.2], 12).says).toBeUndefined();
    expect(swapTells([12.1, 14.2, 12.2, 14.1], 12).says).toBe("fixed");
    expect(swapTells([12.1, 14.2, 12.2, 12.3], 12)).toMatchObject({ says: undefined, words: expect.stringContaining("did not repeat") });
  });

  test("clears the unit where nothing gets better, and where the plug was what mended it", () => {
    expect(swapTells([12.1, 12.2], 12)).toMatchObject({ says: "same", words: expect.stringContaining("not what failed") });
    expect(swapTells([14.2, 14.2], 12, 13.5)).toMatchObject({ says: "same", words: expect.stringContaining("charges either way") });
    expect(swapTells([12.1, 14.2, 14.1], 12)).toMatchObject({ says: "same", words: expect.stringContaining("mended by parting it") });
  });

  test("asks for half as much on six volts", () => {
    expect(swapTells([6.2, 6.5, 6.2, 6.5], 6).says).toBe("fixed");
    expect(swapTells([6.2, 6.5, 6.2, 6.5], 12).says).toBe("same");
  });
});
