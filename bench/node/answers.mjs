// What the server would answer a signer who opens one package with one large sheet; checked against its description with the rest of the page.
/** @typedef {import("../../web/src/api/schema").components["schemas"]} Schemas */

/**
 * @param {string} id of everything there is
 * @param {Schemas["FrameSheetFrame"]} frame of the sheet
 * @returns {Record<string, unknown>} answers by path
 */
export function answersOf(id, frame, fileName = "") {
  const now = new Date().toISOString();
  /** @type {Schemas["Session"]} */
  const session = {
    person: { id, login: "b", name: "Bench", initials: "B", title: "", email: "", timeZone: "UTC", isGuest: false },
    rights: [],
    formToken: "",
    demo: null,
    isEmpty: false,
    dates: { language: "", hours: "byLanguage", weekBegins: "byLanguage" },
  };
  /** @type {Schemas["DeskView"]} */
  const desk = {
    toSign: [],
    toAnswer: [],
    toAdvise: [],
    waiting: [],
    informed: [],
    prepared: [],
    opened: [],
    seen: [],
    cut: [],
  };
  /** @type {Schemas["PackageView"]} */
  const view = {
    id,
    number: "PK-1",
    title: "Bench",
    coveringNote: "",
    originator: id,
    originatorName: "B",
    sentAt: now,
    roundAt: now,
    round: 1,
    standing: "in review",
    slip: {
      plan: {
        name: "",
        purpose: "",
        root: {
          blocks: [
            {
              block: "step",
              key: "s",
              name: "Step",
              instruction: "Look.",
              workingDays: 1,
              seats: [{ key: "q", role: "Seat", holder: { holder: "person", person: id } }],
            },
          ],
        },
      },
      originator: id,
      round: 1,
      standing: "inReview",
      items: [],
      seats: [],
      open: [],
      passed: [],
      signatures: [],
    },
    items: [
      {
        document: id,
        number: "L-1",
        title: "Large",
        revision: "A",
        draft: id,
        ordinal: 1,
        sha256: "",
        fileName,
        standing: "",
        earlierDrafts: [],
        notShown: [],
        wouldFall: [],
        unchanged: [],
      },
    ],
    signOffs: [],
    differing: [],
    rounds: [],
    notes: [],
    awaited: [],
    informed: [],
    statement: "",
    may: {
      seats: [],
      write: true,
      request: false,
      askAdvice: false,
      sendAgain: false,
      answerNoted: false,
      takeBack: [],
      reopen: [],
      handOver: [],
      refill: [],
      skip: [],
      extend: [],
      handPackage: false,
      recall: false,
      pullBack: false,
      stop: false,
      bringIn: false,
    },
  };
  /** @type {Schemas["ShownLeaf"][]} */
  const leaves = [
    { position: 0, name: "Model", frame, grid: null, scales: [], namedScales: [], maySetScale: false, prepared: 1 },
  ];
  /** @type {Schemas["DraftOverlays"]} */
  const overlays = { mayDraw: true, mayShare: true, overlays: [] };
  return {
    "/api/session": session,
    "/api/desk": desk,
    "/api/counts": { desk: 0, unread: 0 },
    "/api/people": [],
    "/api/groups": [],
    [`/api/drafts/${id}/leaves`]: leaves,
    [`/api/drafts/${id}/overlays`]: overlays,
    [`/api/packages/${id}`]: view,
  };
}
