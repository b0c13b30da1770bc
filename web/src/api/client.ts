import createClient, { type Middleware } from "openapi-fetch";

import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Study = Schemas["StudyOut"];
export type Column = Study["columns"][number];
export type Analysis = Schemas["AnalysisOut"];
/** Where the readings are, without anything that is said about them. */
export type Placed = Pick<Analysis, "status" | "x" | "y" | "x_error" | "y_error" | "series_of">;
export type Fit = Analysis["fits"][number];
export type Curve = Schemas["CurveOut"];
export type Answer = Schemas["AnswerOut"];
export type Unknown = Schemas["UnknownOut"];
export type Picture = NonNullable<Study["picture"]>;
export type LaidPicture = Schemas["PictureState"];
export type PicturePlace = Schemas["PicturePlace"];
export type PictureScale = Schemas["PictureScale"];
export type FollowedLine = Schemas["FollowedOut"];
export type Run = Schemas["RunOut"];
export type Instrument = Schemas["InstrumentOut"];
export type Task = Schemas["TaskOut"];
export type CourseSettings = Schemas["CourseSettings"];
export type Settled = Schemas["Course"];
export type HandleSpan = Schemas["HandleSpan"];
export type Worksheet = Schemas["WorksheetOut"];
export type WorksheetStep = Schemas["Step"];
export type Overlay = Schemas["OverlayOut"];
export type ClassCopy = Schemas["CopyOut"];
export type Comment = Schemas["CommentOut"];
export type Card = Schemas["CardOut"];
export type Account = Schemas["AccountOut"];
export type Understood = Schemas["UnderstoodOut"];
export type FileTable = Schemas["FileTableOut"];
export type PlotSettings = Schemas["PlotSettings"];
export type Straight = Schemas["StraightOut"];
export type History = Schemas["HistoryOut"];
export type Family = NonNullable<Schemas["SetFit"]["family"]>;
export type FitOptions = Schemas["FitOptions"];
export type Offer = Schemas["OfferOut"];
export type Setting = Schemas["SettingOut"];
export type TakeTable = Schemas["TakeTable"];
export type ColumnLook = Schemas["ColumnLookOut"];
export type HowRead = Schemas["HowRead"];
export type Candidate = Schemas["CandidateOut"];
export type Ranking = Schemas["RankingOut"];
export type Residuals = Schemas["ResidualsOut"];
export type Comparison = Schemas["ComparisonOut"];
export type Resampling = Schemas["ResamplingOut"];
export type Followable = Schemas["FollowableOut"];
export type Working = Schemas["WorkingOut"];
export type NextPlace = Schemas["NextPlaceOut"];
export type WorkingStep = Schemas["WorkingStepOut"];
export type Moving = NonNullable<Schemas["MovingOut"]>;
export type FormulaLook = Schemas["FormulaOut"];
export type KnownName = Schemas["KnownNameOut"];
export type Sample = Schemas["SampleOut"];
export type Change = Schemas["ChangeIn"]["change"];
export type Role = NonNullable<Schemas["EditColumn"]["role"]>;
export type ReportPart = Schemas["ReportPart"];
export type Direction = Schemas["KeepAnswer"]["direction"];

/** Cookies are kept in another process, which takes a moment each time they are read. */
let token = "";
const isMoving = (url: string) => url.endsWith("/moving");

const withToken: Middleware = {
  onRequest({ request }) {
    // While a hand moves something the token of its first request serves; any other request may find another one.
    if (!token || !isMoving(request.url)) token = /ridge-\w+-csrf=([^;]+)/.exec(document.cookie)?.[1] ?? "";
    request.headers.set("X-CSRFToken", token);
    return request;
  },
  onResponse({ response }) {
    if (!response.ok) token = "";
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(withToken);

/** What the body of an answer says in words; empty where it says nothing readable. */
export const saidBy = (body: unknown): string =>
  body && typeof body === "object" && "message" in body && typeof body.message === "string" ? body.message : "";

/** What the server says is wrong, or a plain sentence where it said nothing readable. */
export const messageOf = (error: unknown): string => saidBy(error) || "The server could not carry this out. Try again.";
