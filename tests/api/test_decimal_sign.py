"""Numbers with a decimal comma: in everything that the API says and in every file, chosen once, taken from the readings at first."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Iterator
from typing import Any
from urllib.parse import urlencode

from django.test import Client

from ridge.accounts.models import User
from ridge.core.decimal_sign import written_with
from ridge.exchange.figure.content import AxisLook
from ridge.exchange.figure.ticks import ticks
from ridge.site.api import api
from ridge.studies.content.samples import SAMPLES
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.out.figure import figure_content
from ridge.studies.words.analyse import analyse
from tests.api.test_api import ApiCase
from tests.exchange.test_report import Reader
from tests.exchange.test_report_readers import pandoc, text_of

POINT = re.compile(r"\d\.\d")


TYPED = {
    "id", "key", "title", "question", "name", "symbol", "unit", "formula", "options", "fixed", "given", "change", "columns", "report",
    "accepted", "accepted_error", "reason", "made", "author", "decimal_sign", "offered_sign", "x", "y",
}  # fmt: skip
"""Fields that hold what a user typed, or what comes back to the server as it went out."""
PARAMETERS = {
    "letter": "A", "key": "line", "row": 2, "low": 0, "high": 20, "of": "A", "what": "fit", "version": 1, "times": 99, "places": 3,
    "form": "decimals", "x": 3.5, "y": 2.5,
}  # fmt: skip
FIXED = (
    "refined", "newer", "run", "curves", "report", "figure", "study.json", "script.py", "readings", "pictures", "equation",
)  # fmt: skip
"""Routes that wait, answer with numbers alone, or with files, which have tests of their own."""


def said(data: Any, key: str = "") -> Iterator[tuple[str, str]]:
    """Every text that is not what the user typed."""
    if isinstance(data, str):
        yield key, data
    elif isinstance(data, dict):
        for name, value in data.items():
            if name not in TYPED:
                yield from said(value, name)
    elif isinstance(data, list):
        for one in data:
            yield from said(one, key)


def routes_of_a_study() -> Iterator[str]:
    """The paths of all that can be read of a study, each with a question."""
    for path, operations in api.get_openapi_schema()["paths"].items():
        if "get" not in operations or "{study_id}" not in path or any(f"/{one}" in path for one in FIXED):
            continue
        given = {
            one["name"]: PARAMETERS[one["name"]] for one in operations["get"]["parameters"] if one["name"] in PARAMETERS
        }
        in_path = {name: given.pop(name) for name in list(given) if f"{{{name}}}" in path}
        yield path.removeprefix("/api").format(study_id="{study_id}", **in_path) + f"?{urlencode(given)}"


def alike(text: str) -> str:
    """A text in which signs make no difference."""
    return re.sub(r"[,;](?= )", ",", text).replace(",", ".")


class DecimalSign(ApiCase):
    def choose(self, sign: str) -> None:
        response = self.client.put("/api/decimal_sign", {"sign": sign}, content_type="application/json")
        self.assertEqual(response.status_code, 204, response.content)

    def sample(self, name: str) -> Any:
        return self.read(f"/studies/{self.post('/studies', {'sample': name}, status=201)['id']}")

    def numbers(self, data: Any) -> Iterator[Any]:
        if isinstance(data, dict):
            for key, value in data.items():
                if key not in ("id", "version"):
                    yield from self.numbers(value)
        elif isinstance(data, list):
            for one in data:
                yield from self.numbers(one)
        elif not isinstance(data, str):
            yield data

    def test_every_sample_says_the_same_with_commas(self) -> None:
        for sample in SAMPLES:
            with self.subTest(sample.name):
                self.choose("point")
                study = self.sample(sample.name)
                path = f"/studies/{study['id']}"
                self.choose("comma")
                turned = self.read(path)
                self.assertEqual((study["decimal_sign"], turned["decimal_sign"]), ("point", "comma"))
                left = [text for text in said(turned["analysis"]) if POINT.search(text[1])]
                self.assertEqual(left, [])
                self.assertTrue(any(POINT.search(text) for _, text in said(study["analysis"])))
                # Texts differ in their signs only, numbers and what was typed not at all.
                self.assertEqual(list(self.numbers(study)), list(self.numbers(turned)))
                for one, other in zip(study["columns"], turned["columns"], strict=True):
                    same = [cell.replace(",", ".") if one["formula"] else cell for cell in other["cells"]]
                    self.assertEqual(same, one["cells"])
                for (key, before), (_, after) in zip(said(study["analysis"]), said(turned["analysis"]), strict=True):
                    if not key.endswith("latex"):
                        self.assertEqual(alike(before), alike(after))

    def test_every_route_says_the_same_with_commas(self) -> None:
        """In either order, so that nothing remembered comes with the wrong sign."""
        asked = 0
        for sample, first in (
            ("current", "comma"),
            ("salinity-probe", "point"),
            ("mooring-line", "comma"),
            ("tide", "point"),
        ):
            study = self.sample(sample)
            for route in routes_of_a_study():
                path = route.format(study_id=study["id"])
                found = {}
                for sign in (first, "point" if first == "comma" else "comma"):
                    self.choose(sign)
                    response = self.client.get(f"/api{path}")
                    found[sign] = response.json() if response.status_code == 200 else None
                if found["point"] is None:
                    continue
                asked += 1
                with self.subTest(sample=sample, route=route):
                    self.assertEqual([text for text in said(found["comma"]) if POINT.search(text[1])], [])
                    self.assertEqual(list(self.numbers(found["point"])), list(self.numbers(found["comma"])))
                    for (key, before), (_, after) in zip(said(found["point"]), said(found["comma"]), strict=True):
                        if not key.endswith("latex"):
                            self.assertEqual(alike(before), alike(after))
        self.assertGreater(asked, 40)

    def test_questions_are_read_and_answered_with_commas(self) -> None:
        study = self.sample("salinity-probe")
        ask = f"/studies/{study['id']}/ask"
        plain = self.post(ask, {"direction": "y_at_x", "given": "20.5"}, status=200)
        self.choose("comma")
        for given in ("20.5", "20,5"):
            found = self.post(ask, {"direction": "y_at_x", "given": given}, status=200)
            self.assertEqual(found["result"], plain["result"].replace(".", ","))
            self.assertEqual(found["numbers"], plain["numbers"])
            self.assertIn("20,5", found["asked"])

    def write(self, study: Any, *cells: str) -> Any:
        change = {"kind": "set_cells", "row": 0, "column": 0, "block": [list(cells)]}
        return self.post(f"/studies/{study['id']}/changes", {"version": study["version"], "change": change})

    def test_it_is_the_custom_of_the_language_of_the_browser(self) -> None:
        for languages, sign in (
            ("de-DE,de;q=0.9,en;q=0.8", "comma"), ("en-GB,en", "point"), ("en;q=0.5,fr;q=0.9", "comma"), ("*", "point"), ("", "point"),
            ("not a language;;q=x", "point"), ("da", "comma"), ("zh-CN,zh", "point"),
        ):  # fmt: skip
            self.client = Client(headers={"accept-language": languages})
            study = self.sample("salinity-probe")
            self.assertEqual(study["decimal_sign"], sign, languages)
            self.assertEqual("27,08" in str(study["analysis"]), sign == "comma", languages)
        self.choose("comma")
        self.assertEqual(self.read("/shelf")["decimal_sign"], "comma")

    def test_the_other_sign_is_offered_when_it_is_typed_first(self) -> None:
        for languages, cells, offered in (
            ("en", ("1", "2"), None), ("en", ("1,5", "2"), "comma"), ("en", ("1.5", "2"), None), ("de", ("1.5", "2"), "point"),
            ("de", ("1,5", "2"), None), ("en", ("12.05.2026", "n/a"), None),
        ):  # fmt: skip
            self.client = Client(headers={"accept-language": languages})
            after = self.write(self.sample_or_empty(), *cells)
            self.assertEqual(after["offered_sign"], offered, (languages, cells))
            self.assertEqual(after["decimal_sign"], "comma" if languages == "de" else "point")
        self.client = Client()
        study = self.write(self.sample_or_empty(), "1,5", "2")
        self.choose("point")
        self.assertIsNone(self.write(study, "2,5", "3,5")["offered_sign"])

    def sample_or_empty(self) -> Any:
        return self.read(f"/studies/{self.post('/studies', {}, status=201)['id']}")

    def test_a_table_says_its_sign(self) -> None:
        for text, sign in (("t;h\n1,5;2\n2,5;3,25", "comma"), ("t,h\n1.5,2\n2.5,3.25", None), ("1\t2\n3\t4", None)):
            self.client = Client()
            columns = [
                {"name": "t", "symbol": "t", "unit": "", "role": "x"},
                {"name": "h", "symbol": "h", "unit": "", "role": "y"},
            ]
            table = {"kind": "take_table", "text": text, "columns": columns}
            made = self.post("/studies", {"table": table}, status=201)
            self.assertEqual(made["offered_sign"], sign, text)

    def test_a_table_that_begins_far_down_says_none_and_is_taken_all_the_same(self) -> None:
        study = self.sample_or_empty()
        columns = [
            {"name": "t", "symbol": "t", "unit": "", "role": "x"},
            {"name": "h", "symbol": "h", "unit": "", "role": "y"},
        ]
        text = "# a remark of the logger\n" * 150 + "t;h\n1,5;2\n2,5;3,25\n3,5;4"
        change = {"kind": "take_table", "text": text, "columns": columns}
        after = self.post(f"/studies/{study['id']}/changes", {"version": study["version"], "change": change})
        self.assertEqual(after["columns"][0]["cells"][:3], ["1.5", "2.5", "3.5"])

    def test_others_keep_their_own(self) -> None:
        self.choose("comma")
        other = Client()
        self.assertEqual(other.get("/api/shelf").json()["decimal_sign"], "point")
        self.assertEqual(self.read("/shelf")["decimal_sign"], "comma")
        self.assertEqual(User.objects.filter(decimal_sign="comma").count(), 1)
        self.assertEqual(
            self.client.put("/api/decimal_sign", {"sign": "dot"}, content_type="application/json").status_code, 422
        )

    def get(self, path: str) -> bytes:
        response = self.client.get(f"/api{path}")
        self.assertEqual(response.status_code, 200, response.content[:200])
        return bytes(response.content)

    def test_csv_has_semicolons_and_the_same_numbers(self) -> None:
        study = self.sample("tide")
        path = f"/studies/{study['id']}/readings.csv"
        plain = list(csv.reader(io.StringIO(self.get(path).decode("utf-8-sig"))))
        self.choose("comma")
        turned = list(csv.reader(io.StringIO(self.get(path).decode("utf-8-sig")), delimiter=";"))
        self.assertEqual(turned[0], plain[0])
        self.assertNotEqual(turned, plain)
        self.assertEqual([[cell.replace(",", ".") for cell in row] for row in turned[1:]], plain[1:])

    def test_reports_under_second_readers(self) -> None:
        study = self.sample("salinity-probe")
        path = f"/studies/{study['id']}"
        self.choose("comma")
        html = Reader(self.get(f"{path}/report.html").decode()).text
        for text in (html, pandoc(self.get(f"{path}/report.docx")), text_of(self.get(f"{path}/report.pdf"))):
            before_references = text.rpartition("References")[0]
            self.assertRegex(before_references, r"27,08\sg/kg \(95\s% CI 26,82 to 27,35\)")
            self.assertEqual(POINT.findall(before_references), [])
        with zipfile.ZipFile(io.BytesIO(self.get(f"{path}/readings.xlsx"))) as book:
            cells = "".join(book.read(name).decode() for name in book.namelist() if "worksheets/sheet" in name)
        self.assertIn("27,08", cells)
        self.assertRegex(cells, r"<v>\d+\.\d+</v>")

    def test_the_figure_and_the_equation(self) -> None:
        study = self.sample("current")
        state = read_state(Study.objects.get(pk=study["id"]))
        with written_with("comma"):
            content = figure_content(state, analyse(state))
        for axis in (content.x_axis, content.y_axis, content.residual_axis):
            with written_with("comma"):
                texts = ticks(axis, 6).texts
            self.assertTrue(any("," in text for text in texts))
            self.assertFalse(any("." in text for text in texts))
        self.assertIn("{,}", content.curves[0].latex)
        self.assertEqual(ticks(AxisLook((0.0, 1.0)), 4).texts[1], "0.2")
        self.choose("comma")
        svg = self.get(f"/studies/{study['id']}/fits/A/equation.svg").decode()
        self.assertRegex(svg, r"<title>v = \d,\d")
        self.assertIn(b"<svg", self.get(f"/studies/{study['id']}/figure.svg"))

    def test_what_can_be_done_at_one_press_is_said_with_commas_and_sent_as_it_was(self) -> None:
        found = 0
        for name in ("lantern", "draining-bucket", "can-of-soup"):
            self.choose("point")
            study = self.sample(name)
            self.choose("comma")
            both = (study, self.read(f"/studies/{study['id']}"))
            sent = [
                [
                    action["change"]
                    for fit in one["analysis"]["fits"]
                    for caution in fit["cautions"]
                    for action in caution["actions"]
                ]
                for one in both
            ]
            self.assertEqual(*sent)
            found += len(sent[0])
        self.assertGreater(found, 0)
        better = self.read(f"/studies/{study['id']}/better/A")
        self.assertRegex(better["label"], r"\d,\d")
        self.assertNotRegex(better["label"], r"\d\.\d")

    def test_what_was_typed_stays_as_it_was(self) -> None:
        self.choose("comma")
        study = self.sample("current")
        change = {"kind": "set_fit", "letter": "A", "name": "run 1.5"}
        study = self.post(f"/studies/{study['id']}/changes", {"version": study["version"], "change": change})
        self.assertEqual(study["analysis"]["fits"][0]["label"], "run 1.5")
        change = {"kind": "edit_study", "title": "Station 2.5", "question": "At 1.2 m?"}
        study = self.post(f"/studies/{study['id']}/changes", {"version": study["version"], "change": change})
        self.assertEqual((study["title"], study["question"]), ("Station 2.5", "At 1.2 m?"))
        html = Reader(self.get(f"/studies/{study['id']}/report.html").decode()).text
        self.assertIn("Station 2.5", html)
        self.assertIn("At 1.2 m?", html)
