"""Small tables as people have them, each with what it is to become. Written for this test; all of it is invented.

What a column is to become: ``role | name | symbol | unit | cells``, the cells with spaces between them, ``·`` for an empty
one and ``_`` for a space inside one.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Case:
    """``asks``: what has to be asked first, empty if nothing; ``pick``: the answer, from 0, after which the table becomes
    ``columns``. ``passed``: lines that have to be named as left out; ``wrong``: cells that have to be named, as column and
    row from 0. ``refused``: words of the reason where the text is no table."""

    name: str
    text: str
    columns: tuple[str, ...] = ()
    asks: str = ""
    pick: int = 0
    passed: tuple[int, ...] = ()
    wrong: tuple[tuple[int, int], ...] = ()
    refused: str = ""


CASES: list[Case] = []


def case(name: str, text: str, columns: str = "", *, asks: str = "", pick: int = 0, passed: tuple[int, ...] = (), wrong: tuple[tuple[int, int], ...] = (), refused: str = "") -> None:  # fmt: skip
    CASES.append(Case(name, text, tuple(line.strip() for line in columns.strip().splitlines() if line.strip()), asks, pick, passed, wrong, refused))  # fmt: skip


# --- well-shaped tables, which are asked nothing ------------------------------------------------------------------

TH = "x||t|s|0 1 2\ny||h|m|1.5 2.5 4.5"
for mark, word in (
    ("\t", "tab"),
    (";", "semicolon"),
    (",", "comma"),
    ("  ", "two spaces"),
    ("\t ", "tab and space"),
    (" | ", "bars"),
):
    case(f"plain, {word}", f"t / s{mark}h / m\n0{mark}1.5\n1{mark}2.5\n2{mark}4.5\n", TH)
    case(f"no heading, {word}", f"0{mark}1.5\n1{mark}2.5\n2{mark}4.5", "x||||0 1 2\ny||||1.5 2.5 4.5")
case("single spaces", "t h\n0 1.5\n1 2.5\n2 4.5", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("uneven spaces", "  0   1.5\n 10   2.5\n100  14.5", "x||||0 10 100\ny||||1.5 2.5 14.5")
case("comma and space", "t, h\n0, 1.5\n1, 2.5\n2, 4.5", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("line ends of old systems", "t;h\r0;1.5\r1;2.5\r2;4.5", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("line ends of other systems", "t;h\r\n0;1.5\r\n1;2.5\r\n2;4.5\r\n", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("a mark of the byte order", "\ufefft;h\n0;1.5\n1;2.5\n2;4.5", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("separators at the ends", "t;h;\n0;1.5;\n1;2.5;\n2;4.5;", "x||t||0 1 2\ny||h||1.5 2.5 4.5")
case("an empty column between", "t\t\th\n0\t\t1.5\n1\t\t2.5", "x||t||0 1\ny||h||1.5 2.5")
case("very large and very small", "t;h\n1e-30;2.5e30\n2e-30;4E+30\n", "x||t||1e-30 2e-30\ny||h||2.5e30 4E+30")
case("powers of ten", "t;h\n1×10^3;2.5·10⁻³\n2×10^3;4.5·10⁻³", "x||t||1e3 2e3\ny||h||2.5e-3 4.5e-3")
case("true minus signs", "t;h\n−1;–2.5\n-2;−4.5", "x||t||-1 -2\ny||h||-2.5 -4.5")
case("gaps", "t;h\n0;1\n1;\n;3\n3;4", "x||t||0 1 · 3\ny||h||1 · 3 4")
case(
    "marks for missing values",
    "t;h\n0;1\n1;n/a\n2;-\n3;4\n4;5",
    "x||t||0 1 2 3 4\ny||h||1 n/a - 4 5",
    wrong=((1, 1), (1, 2)),
)
case("one missing value in the first row", "0\tn/a\n1\t3\n2\t5", "x||||0 1 2\ny||||n/a 3 5", wrong=((1, 0),))
case(
    "Greek and right-to-left names",
    "χρόνος t / s;שיעור v / (m/s)\n0;1\n1;2\n2;4",
    "x|χρόνος|t|s|0 1 2\ny|שיעור|v|m/s|1 2 4",
)

# --- decimal comma -------------------------------------------------------------------------------------------------

case("decimal comma, semicolons", "t;h\n0,5;1,25\n1,0;2,5", "x||t||0.5 1.0\ny||h||1.25 2.5")
case("decimal comma, tabs", "t\th\n0,5\t1,25\n1,0\t2,5", "x||t||0.5 1.0\ny||h||1.25 2.5")
case("decimal comma, spaces", "0,5 1,25\n1,0 2,5\n1,5 3,75", "x||||0.5 1.0 1.5\ny||||1.25 2.5 3.75")
case("three decimals, semicolons", "1,500;2,250\n1,750;2,500", "x||||1.500 1.750\ny||||2.250 2.500")
case("three decimals, tabs", "1,500\t2,250\n1,750\t2,500", "x||||1.500 1.750\ny||||2.250 2.500", asks="decimal")
case("thousands, tabs", "1,500\t2,250\n1,750\t2,500", "x||||1500 1750\ny||||2250 2500", asks="decimal", pick=1)
case("three decimals, another column decides", "1,500\t0,5\n1,750\t0,7", "x||||1.500 1.750\ny||||0.5 0.7")
case("three decimals, another row decides", "1,500\t2,250\n1,75\t2,500", "x||||1.500 1.75\ny||||2.250 2.500")
case("three decimals, a nought in front decides", "0,500\t2,250\n1,750\t2,500", "x||||0.500 1.750\ny||||2.250 2.500")
case("three decimals, an ungrouped thousand decides", "1,500\t2,250\n1500\t2,500", "x||||1.500 1500\ny||||2.250 2.500")
case("thousands, another column decides", "1,500\t0.5\n1,750\t0.7", "x||||1500 1750\ny||||0.5 0.7")
case("thousands, hundreds in the column decide", "750\t1\n1,250\t2\n1,500\t3", "x||||750 1250 1500\ny||||1 2 3")
case("thousands, millions decide", "1,250,000\t1,250\n1,500,000\t1,500", "x||||1250000 1500000\ny||||1250 1500")
case("thousands and decimals", "1,234.5\t2\n12,000\t3", "x||||1234.5 12000\ny||||2 3")
case("thousands by points", "1.234,5;2\n12.000,25;3", "x||||1234.5 12000.25\ny||||2 3")
case(
    "three decimals under a heading with units, tabs",
    "m (kg)\tU (V)\n1,500\t2,250\n1,750\t2,500",
    "x||m|kg|1.500 1.750\ny||U|V|2.250 2.500",
    asks="decimal",
)
case(
    "three decimals in quotes, commas between",
    '"1,500","2,250"\n"1,750","2,500"',
    "x||||1.500 1.750\ny||||2.250 2.500",
    asks="decimal",
)
case("decimal commas in quotes, commas between", '"1,5","2,25"\n"1,7","2,5"', "x||||1.5 1.7\ny||||2.25 2.5")
case("thousands in quotes, commas between", 't,"n"\n1.5,"1,500"\n2.5,"1,750"', "x||t||1.5 2.5\ny||n||1500 1750")
case("one column with commas", "0,5\n1,5\n2,5", "x||||0 1 2\ny||||5 5 5", asks="separator")
case("one column with commas, one number each", "0,5\n1,5\n2,5", "y||||0.5 1.5 2.5", asks="separator", pick=1)
case("a decimal comma in one cell of many", "t;h\n0;1\n1;2\n2;2,5\n3;4", "x||t||0 1 2 3\ny||h||1 2 2.5 4")
case("point and comma mixed", "t;h\n0;1.5\n1;2,5\n2;3.5", "x||t||0 1 2\ny||h||1.5 2.5 3.5")
case("three decimals with points", "1.500\t2.250\n1.750\t2.500", "x||||1.500 1.750\ny||||2.250 2.500")
case("three decimals and an exponent", "t\tI\n1\t1,500e-3\n2\t2,250e-3", "x||t||1 2\ny||I||1.500e-3 2.250e-3")

# --- cells with more than a number -----------------------------------------------------------------------------------

case("value ± uncertainty", "t;h\n0;0.10 ± 0.01\n1;0.20 ± 0.02", "x||t||0 1\ny||h||0.10 0.20\ny_error||||0.01 0.02")
case(
    "value ± uncertainty in both",
    "t;h\n0 ± 0.1;1.0 ± 0.2\n1 ± 0.1;2.0 ± 0.2",
    "x||t||0 1\nx_error||||0.1 0.1\ny||h||1.0 2.0\ny_error||||0.2 0.2",
)
case(
    "value +/- uncertainty",
    "t\th / m\n0\t0.10 +/- 0.01\n1\t0.20+/-0.02",
    "x||t||0 1\ny||h|m|0.10 0.20\ny_error|||m|0.01 0.02",
)
case(
    "value ± uncertainty, spaces between the columns",
    "0 0.10 ± 0.01\n1 0.20 ± 0.01\n2 0.30 ± 0.01",
    "x||||0 1 2\ny||||0.10 0.20 0.30\ny_error||||0.01 0.01 0.01",
)
case(
    "uncertainty in the last digits",
    "t;h\n0;0.10(1)\n1;12.5(12)\n2;120(3)",
    "x||t||0 1 2\ny||h||0.10 12.5 120\ny_error||||0.01 1.2 3",
)
case(
    "uncertainty in the last digits with a power of ten",
    "t;h\n0;1.50(2)e-3\n1;2.50(2)×10⁻³",
    "x||t||0 1\ny||h||1.50e-3 2.50e-3\ny_error||||0.02e-3 0.02e-3",
)
case(
    "value ± uncertainty with its unit",
    "t;h\n0;(0.10 ± 0.01) m\n1;(0.20 ± 0.01) m",
    "x||t||0 1\ny||h|m|0.10 0.20\ny_error|||m|0.01 0.01",
)
case("value ± per cent", "t;h\n0;5.0 ± 2 %\n1;6.0 ± 2 %", "x||t||0 1\ny||h||5.0 6.0\ny_error|||%|2 2")
case(
    "value ± uncertainty, decimal comma",
    "t;h\n0;1,50 ± 0,02\n1;2,50 ± 0,02",
    "x||t||0 1\ny||h||1.50 2.50\ny_error||||0.02 0.02",
)
case(
    "some values without uncertainty",
    "t;h\n0;0.10 ± 0.01\n1;0.20\n2;0.30 ± 0.01",
    "x||t||0 1 2\ny||h||0.10 0.20 0.30\ny_error||||0.01 · 0.01",
)
case(
    "a value that is missing among uncertainties",
    "t;h\n0;0.1 ± 0.01\n1;n/a\n2;0.3 ± 0.01",
    "x||t||0 1 2\ny||h||0.1 n/a 0.3\ny_error||||0.01 · 0.01",
    wrong=((1, 1),),
)
case("units in the cells", "t;h\n1 s;2.5 m\n2 s;3.5 m", "x||t|s|1 2\ny||h|m|2.5 3.5")
case("units in the cells without a space", "U,I\n1.5V,20mA\n3.0V,41mA", "x||U|V|1.5 3.0\ny||I|mA|20 41")
case("units in the cells and in the heading", "t (s);h\n1 s;2\n2 s;3", "x||t|s|1 2\ny||h||2 3")
case(
    "one unit among others", "t;h\n1 s;2\n2 s;3\n900 ms;4\n4 s;5", "x||t|s|1 2 900_ms 4\ny||h||2 3 4 5", wrong=((0, 2),)
)
case(
    "another unit than the heading says",
    "t (s);h\n100 ms;2\n200 ms;3",
    "x||t|s|100_ms 200_ms\ny||h||2 3",
    wrong=((0, 0), (0, 1)),
)
case("degrees in the cells", "t;T\n0;20 °C\n1;25 °C\n2;29 °C", "x||t||0 1 2\ny||T|°C|20 25 29")
case("per cent", "c;p\n1;45%\n2;50 %\n3;55%", "x||c||1 2 3\ny||p|%|45 50 55")
case("a unit in a column of its own", "m;;h\n1;g;2\n2;g;4\n3;g;5", "x||m|g|1 2 3\nskip||||g g g\ny||h||2 4 5")
case("thousands by apostrophes", "n;m\n1'000;2\n12’500;3", "x||n||1000 12500\ny||m||2 3")
case("thousands by thin spaces", "n;m\n1\u202f000;2\n12\u2009500;3", "x||n||1000 12500\ny||m||2 3")
case("fractions", "x;y\n1/2;1\n3/4;2\n1 1/2;3", "x||x||0.5 0.75 1.5\ny||y||1 2 3")
case("fractions of one letter", "x;y\n½;1\n2¼;2", "x||x||0.5 2.25\ny||y||1 2")
case(
    "below the limit",
    "c;A\n0.1;<0.5\n0.2;0.7\n0.3;0.9\n0.4;1.2",
    "x||c||0.1 0.2 0.3 0.4\ny||A||<0.5 0.7 0.9 1.2",
    wrong=((1, 0),),
)
case(
    "most below the limit",
    "c;A\n0.1;<0.5\n0.2;<0.5\n0.3;<0.5\n0.4;1.2\n0.5;1.4",
    "x||c||0.1 0.2 0.3 0.4 0.5\ny||A||<0.5 <0.5 <0.5 1.2 1.4",
    wrong=((1, 0), (1, 1), (1, 2)),
)
case("in double quotes", '"t","h"\n"0","1.5"\n"1","2.5"', "x||t||0 1\ny||h||1.5 2.5")
case("in single quotes", "'t';'h'\n'0';'1.5'\n'1';'2.5'", "x||t||0 1\ny||h||1.5 2.5")
case("in curly quotes", "t;h\n“0”;“1.5”\n“1”;“2.5”", "x||t||0 1\ny||h||1.5 2.5")
case("texts as spreadsheets write them", 't;h\n="0";="1.5"\n="1";="2.5"', "x||t||0 1\ny||h||1.5 2.5")
case(
    "marked as uncertain",
    "t;h\n0;1.5\n1;~2.5\n2;3.5*\n3;4.5",
    "x||t||0 1 2 3\ny||h||1.5 ~2.5 3.5* 4.5",
    wrong=((1, 1), (1, 2)),
)
case("currency", "t;p\n0;€ 3\n1;4\n2;5", "x||t||0 1 2\ny||p||€_3 4 5", wrong=((1, 0),))
case("words among numbers", "t;h\n0;1\n1;high\n2;3\n3;4", "x||t||0 1 2 3\ny||h||1 high 3 4", wrong=((1, 1),))
case("not finite", "t;h\n0;1\n1;inf\n2;3\n3;1e999", "x||t||0 1 2 3\ny||h||1 inf 3 1e999", wrong=((1, 1), (1, 3)))
case(
    "labels with numbers in them", "site;t;h\n1a;0;1\n2b;1;2\n3c;2;4", "other|site|||1a 2b 3c\nx||t||0 1 2\ny||h||1 2 4"
)

# --- headings --------------------------------------------------------------------------------------------------------

case("a title", "Field week, station 4\n\nt;h\n0;1\n1;2", "x||t||0 1\ny||h||1 2", passed=(1,))
case(
    "title and note",
    "Sallow Quay\nmeasured by hand\ntime (s),height (m)\n0,1\n1,2\n2,4",
    "x|time||s|0 1 2\ny|height||m|1 2 4",
    passed=(1, 2),
)
case(
    "a title with a comma",
    "Sallow Quay, station 4\ntime (s),height (m)\n0,1\n1,2\n2,4",
    "x|time||s|0 1 2\ny|height||m|1 2 4",
    passed=(1,),
)
case("a title with a number", "Run 7\nt\th\n0\t1\n1\t2", "x||t||0 1\ny||h||1 2", passed=(1,))
case("comments", "# probe 7\n# taken at noon\nt;h\n0;1\n1;2", "x||t||0 1\ny||h||1 2", passed=(1, 2))
case("a comment as the heading", "# t h\n0 1\n1 2", "x||t||0 1\ny||h||1 2")
case("a comment as the heading below another one", "# probe 7\n# t;h\n0;1\n1;2", "x||t||0 1\ny||h||1 2", passed=(1,))
case("a comment between the rows", "t;h\n0;1\n# pump on\n1;2\n2;4", "x||t||0 1 2\ny||h||1 2 4", passed=(3,))
case("comments with another sign", "% probe 7\nt;h\n0;1\n1;2", "x||t||0 1\ny||h||1 2", passed=(1,))
case("settings above", "instrument;probe 7\nrange;2.5\n\nt;h\n0;1\n1;2\n2;4", "x||t||0 1 2\ny||h||1 2 4", passed=(1, 2))
case("units in the next line", "time\theight\ns\tm\n0\t1\n1\t2", "x|time||s|0 1\ny|height||m|1 2")
case("units in brackets in the next line", "time;height\n(s);(m)\n0;1\n1;2", "x|time||s|0 1\ny|height||m|1 2")
case(
    "units in the next line, some without",
    "time;height;count\ns;m;-\n0;1;5\n1;2;6",
    "x|time||s|0 1\ny|height||m|1 2\ncount|count|||5 6",
)
case(
    "units in the next line with a title above",
    "station 4\ntime;height\ns;m\n0;1\n1;2",
    "x|time||s|0 1\ny|height||m|1 2",
    passed=(1,),
)
case("symbols and units in the next line", "time;height\nt / s;h / m\n0;1\n1;2", "x|time|t|s|0 1\ny|height|h|m|1 2")
case(
    "merged headings, pairs",
    "Beaker A,,Beaker B,\nt / s,T / °C,t / s,T / °C\n0,20,0,30\n1,21,1,28",
    "x||t|s|0 1\ny|Beaker A|T|°C|20 21\nx||t|s|0 1\ny|Beaker B|T|°C|30 28",
)
case(
    "merged headings, several y",
    ",Beaker A,Beaker B\nt / s,T / °C,T / °C\n0,20,30\n1,21,28",
    "x||t|s|0 1\ny|Beaker A|T|°C|20 21\ny|Beaker B|T|°C|30 28",
)
case(
    "merged heading over two",
    "time;temperature (°C);\n;inside;outside\n0;20;12\n1;21;13",
    "x|time|||0 1\ny|temperature inside||°C|20 21\ny|temperature outside||°C|12 13",
)
case("in", "t in s;h in m\n0;1\n1;2", "x||t|s|0 1\ny||h|m|1 2")
case("in, with names", "time in seconds;height in cm\n0;1\n1;2", "x|time||seconds|0 1\ny|height||cm|1 2")
case("in, spaces between the columns", "t in s  h in m\n0       1\n1       2", "x||t|s|0 1\ny||h|m|1 2")
case("a name that ends in a letter", "t (s);Beaker A (°C)\n0;20\n1;21", "x||t|s|0 1\ny|Beaker A||°C|20 21")
case(
    "names that end in letters",
    "t (s);Beaker A (°C);Beaker B (°C)\n0;20;30\n1;21;28",
    "x||t|s|0 1\ny|Beaker A||°C|20 21\ny|Beaker B||°C|30 28",
)
case("a name with a symbol", "time t / s;area A / m²\n0;20\n1;21", "x|time|t|s|0 1\ny|area|A|m²|20 21")
case("an expression as a name", "1/R;I / mA\n0.1;20\n0.2;21", "x|1/R|||0.1 0.2\ny||I|mA|20 21")
case("an expression with its unit", "1/T (1/K);ln(k)\n0.001;20\n0.002;21", "x|1/T||1/K|0.001 0.002\ny|ln(k)|||20 21")
case("a logarithm as a name", "log(c);U / mV\n-1;20\n-2;21", "x|log(c)|||-1 -2\ny||U|mV|20 21")
case(
    "a logarithm of a quantity over its unit",
    "ln(c / (mol/L));U\n-1;20\n-2;21",
    "x|ln(c_/_(mol/L))|||-1 -2\ny||U||20 21",
)
case("a square as a name", "t²/s²;d/m\n1;20\n4;21", "x|t²||s²|1 4\ny||d|m|20 21")
case("a square root as a name", "sqrt(h);v\n1;20\n4;21", "x|sqrt(h)|||1 4\ny||v||20 21")
case("a quotient of units", "v / (m/s);P / (kg·m²/s³)\n1;20\n4;21", "x||v|m/s|1 4\ny||P|kg·m²/s³|20 21")
case("a unit without brackets", "speed km/h;force N\n1;20\n4;21", "x|speed||km/h|1 4\ny|force||N|20 21")
case("a unit after a comma", "time, s;height, m\n0;1\n1;2", "x|time||s|0 1\ny|height||m|1 2")
case("a power of ten as unit", "I / 10⁻⁷ A;U / V\n1;20\n4;21", "x||I|10⁻⁷_A|1 4\ny||U|V|20 21")
case("voltage alone", "voltage (V)\n1.2\n1.4\n1.7", "y|voltage||V|1.2 1.4 1.7", asks="alone")
case("voltage alone, as x", "voltage (V)\n1.2\n1.4\n1.7", "x|voltage||V|1.2 1.4 1.7", asks="alone", pick=1)
case(
    "a heading of several words, one column",
    "height above the quay\n1.2\n1.4\n1.7",
    "y|height above the quay|||1.2 1.4 1.7",
    asks="alone",
)
case(
    "headings of several words, single spaces",
    "time (s) height (m)\n0 1\n1 2\n2 4",
    "x|time||s|0 1 2\ny|height||m|1 2 4",
)
case("an index without a name", ",t,h\n0,0.5,2\n1,1.0,3\n2,1.5,5", "other||||0 1 2\nx||t||0.5 1.0 1.5\ny||h||2 3 5")
case(
    "an index without a heading cell",
    "t\th\n1\t0.5\t2\n2\t1.0\t3\n3\t1.5\t5",
    "other||||1 2 3\nx||t||0.5 1.0 1.5\ny||h||2 3 5",
)
case(
    "row numbers without any name",
    "1;0.5;2\n2;1.0;3\n3;1.5;5",
    "other||||1 2 3\nx||||0.5 1.0 1.5\ny||||2 3 5",
    asks="numbering",
)
case(
    "a first column that counts, as x",
    "1;0.5;0.2\n2;1.0;0.3\n3;1.5;0.5",
    "x||||1 2 3\ny||||0.5 1.0 1.5\nother||||0.2 0.3 0.5",
    asks="numbering",
    pick=1,
)
case("No.", "No.;t;h\n1;0;2\n2;1;3\n3;2;5", "other|No.|||1 2 3\nx||t||0 1 2\ny||h||2 3 5")
case("Nr", "Nr\tt / s\th / m\n1\t0\t2\n2\t1\t3\n3\t2\t5", "other|Nr|||1 2 3\nx||t|s|0 1 2\ny||h|m|2 3 5")
case("#", "#,t,h\n1,0,2\n2,1,3\n3,2,5", "other|#|||1 2 3\nx||t||0 1 2\ny||h||2 3 5")
case("reading", "reading;t;h\n1;0;2\n2;1;3\n3;2;5", "other|reading|||1 2 3\nx||t||0 1 2\ny||h||2 3 5")
case(
    "No. and one column",
    "No.;period (s)\n1;2.01\n2;2.03\n3;1.99",
    "other|No.|||1 2 3\ny|period||s|2.01 2.03 1.99",
    asks="alone",
)
case("x counts and is named", "t (s);h (m)\n1;2\n2;3\n3;5", "x||t|s|1 2 3\ny||h|m|2 3 5")
case("order and wavelength", "n;λ / nm\n1;650\n2;325\n3;217", "x||n||1 2 3\ny||λ|nm|650 325 217")
case(
    "numbers as names", "T,10,20,30\n1,2,3,4\n2,3,4,5\n3,4,6,8", "x||T||1 2 3\ny|10|||2 3 4\ny|20|||3 4 6\ny|30|||4 5 8"
)
case("numbers as names, an empty corner", ";10;20\n1;2;3\n2;3;4\n3;4;6", "x||||1 2 3\ny|10|||2 3 4\ny|20|||3 4 6")
case(
    "numbers with units as names",
    "t / s;10 g;20 g\n1;2;3\n2;3;4\n3;4;6",
    "x||t|s|1 2 3\ny|10 g|||2 3 4\ny|20 g|||3 4 6",
)
case("one number as a name", "t;10\n1;2\n2;3\n3;4", "x||t||1 2 3\ny|10|||2 3 4", asks="header")
case("a heading over one column only", "t;\n0;1\n1;2\n2;4", "x||t||0 1 2\ny||||1 2 4")
case(
    "a heading broken over two lines in quotes", '"time\n(s)";"height\n(m)"\n0;1\n1;2', "x|time||s|0 1\ny|height||m|1 2"
)
case("a heading alone", "time t / s;height h / m\n", "x|time|t|s|\ny|height|h|m|")
case("the first column is named y", "y;x\n1;0\n2;1\n4;2", "y||y||1 2 4\nx||x||0 1 2")

# --- roles by names --------------------------------------------------------------------------------------------------

for word in (
    "uncertainty",
    "± h",
    "sd",
    "s.d.",
    "error",
    "err",
    "std dev",
    "standard deviation",
    "u_h",
    "Δh",
    "σ_h",
    "SE",
    "h_err",
    "std. error",
):
    case(
        f"uncertainty named {word}",
        f"t;h;{word}\n0;1;0.1\n1;2;0.1\n2;4;0.2",
        "x||t||0 1 2\ny||h||1 2 4\ny_error||||0.1 0.1 0.2",
    )
case("uncertainty of x", "t;Δt;h\n0;0.1;1\n1;0.1;2\n2;0.1;4", "x||t||0 1 2\nx_error||||0.1 0.1 0.1\ny||h||1 2 4")
case(
    "uncertainties at the end",
    "t;h;u_t;u_h\n0;1;0.1;0.2\n1;2;0.1;0.2\n2;4;0.1;0.3",
    "x||t||0 1 2\ny||h||1 2 4\nx_error||||0.1 0.1 0.1\ny_error||||0.2 0.2 0.3",
)
case("a difference is no uncertainty", "t / s;ΔT / K\n0;1\n1;2\n2;4", "x||t|s|0 1 2\ny||ΔT|K|1 2 4")
case("a voltage called U is no uncertainty", "t / s;U / V\n0;1\n1;2", "x||t|s|0 1\ny||U|V|1 2")
case("n is how often", "t;h;n\n0;1;3\n1;2;3\n2;4;5", "x||t||0 1 2\ny||h||1 2 4\ncount||n||3 3 5")
case("count is how often", "t;h;count\n0;1;3\n1;2;3\n2;4;5", "x||t||0 1 2\ny||h||1 2 4\ncount|count|||3 3 5")
case("counts are measured", "t / s;counts\n0;901\n1;622\n2;417", "x||t|s|0 1 2\ny|counts|||901 622 417")
case("weights", "t;h;weight\n0;1;0.5\n1;2;1\n2;4;1", "x||t||0 1 2\ny||h||1 2 4\nweight|weight|||0.5 1 1")
case(
    "a weight in newtons is a force", "stretch (mm);weight (N)\n0;1\n1;2\n2;4", "x|stretch||mm|0 1 2\ny|weight||N|1 2 4"
)
case(
    "groups in words",
    "group;t;h\nred;0;1\nred;1;2\nblue;0;3\nblue;1;4",
    "series|group|||red red blue blue\nx||t||0 1 0 1\ny||h||1 2 3 4",
)
case(
    "groups by numbers", "t;h;group\n0;1;1\n1;2;1\n0;3;2\n1;4;2", "x||t||0 1 0 1\ny||h||1 2 3 4\nseries|group|||1 1 2 2"
)
case("labels", "place;t;h\nquay;0;1\nbuoy;1;2\npier;2;4", "other|place|||quay buoy pier\nx||t||0 1 2\ny||h||1 2 4")
case(
    "several y, named alike",
    "t;run 1;run 2;run 3\n0;1;2;3\n1;2;3;4\n2;4;5;6",
    "x||t||0 1 2\ny|run 1|||1 2 4\ny|run 2|||2 3 5\ny|run 3|||3 4 6",
)
case("several y, numbered", "x,y1,y2\n0,1,2\n1,2,3\n2,4,5", "x||x||0 1 2\ny||y1||1 2 4\ny||y2||2 3 5")
case(
    "several y in one unit",
    "t / s;inside / °C;outside / °C\n0;1;2\n1;2;3\n2;4;5",
    "x||t|s|0 1 2\ny|inside||°C|1 2 4\ny|outside||°C|2 3 5",
)
case(
    "quantities in different units",
    "t / s;T / °C;p / kPa\n0;1;2\n1;2;3\n2;4;5",
    "x||t|s|0 1 2\ny||T|°C|1 2 4\nother||p|kPa|2 3 5",
)
case("several y without a word", "a;b;c\n0;1;2\n1;2;3\n2;4;5", "x||a||0 1 2\ny||b||1 2 4\ny||c||2 3 5", asks="several")
case(
    "several y without a word, the first only",
    "a;b;c\n0;1;2\n1;2;3\n2;4;5",
    "x||a||0 1 2\ny||b||1 2 4\nother||c||2 3 5",
    asks="several",
    pick=1,
)
case(
    "several y with their uncertainties",
    "t;y1;u_y1;y2;u_y2\n0;1;0.1;2;0.2\n1;2;0.1;3;0.2\n2;4;0.1;5;0.2",
    "x||t||0 1 2\ny||y1||1 2 4\ny_error||u_y1||0.1 0.1 0.1\ny||y2||2 3 5\ny_error||u_y2||0.2 0.2 0.2",
)
case(
    "pairs by number",
    "x1,y1,x2,y2\n0,1,10,2\n1,2,11,3\n2,4,12,5",
    "x||x1||0 1 2\ny||y1||1 2 4\nx||x2||10 11 12\ny||y2||2 3 5",
)
case(
    "pairs by the same heading",
    "t / s;a / m;t / s;b / m\n0;1;10;2\n1;2;11;3",
    "x||t|s|0 1\ny||a|m|1 2\nx||t|s|10 11\ny||b|m|2 3",
)
case(
    "pairs of different length",
    "x1;y1;x2;y2\n0;1;10;2\n1;2;11;3\n;;12;5",
    "x||x1||0 1 ·\ny||y1||1 2 ·\nx||x2||10 11 12\ny||y2||2 3 5",
)

# --- what is no part of the table -------------------------------------------------------------------------------------

case("blank lines between the rows", "t;h\n0;1\n\n1;2\n\n\n2;4", "x||t||0 1 2\ny||h||1 2 4")
case("rows of nothing but separators", "t;h\n0;1\n;\n1;2\n2;4", "x||t||0 1 2\ny||h||1 2 4")
case("a second table", "t;h\n0;1\n1;2\n2;4\n\nt;v\n0;5\n1;6", "x||t||0 1 2\ny||h||1 2 4", passed=(6,))
case("a second table with another width", "t;h\n0;1\n1;2\n2;4\n\n0;5;7\n1;6;8", "x||t||0 1 2\ny||h||1 2 4", passed=(6,))
case(
    "a second table with a title",
    "First run\nt;h\n0;1\n1;2\n2;4\n\nSecond run\nt / s;v\n0;5\n1;6",
    "x||t||0 1 2\ny||h||1 2 4",
    passed=(1, 7, 8),
)
case("a second table without a gap", "t;h\n0;1\n1;2\n2;4\nt;v\n0;5\n1;6", "x||t||0 1 2\ny||h||1 2 4", passed=(5,))
case("the heading again on the next page", "t;h\n0;1\n1;2\nt;h\n2;4\n3;5", "x||t||0 1 2 3\ny||h||1 2 4 5", passed=(4,))
case("a sum below", "t;h\n0;1\n1;2\n2;4\nSum;7", "x||t||0 1 2\ny||h||1 2 4", passed=(5,))
case(
    "a mean below",
    "place,t,h\nquay,0,1\nbuoy,1,2\npier,2,4\nMean,1,2.333",
    "other|place|||quay buoy pier\nx||t||0 1 2\ny||h||1 2 4",
    passed=(5,),
)
case(
    "mean and deviation below",
    "t;h\n0;1\n1;2\n2;4\n\nmean;2.33\nstd. dev.;1.53",
    "x||t||0 1 2\ny||h||1 2 4",
    passed=(6, 7),
)
case("a sum below without a word", "t;h\n0;1.5\n1;2.5\n2;4.5\n;8.5", "x||t||0 1 2\ny||h||1.5 2.5 4.5", passed=(5,))
case("an unknown below is no sum", "c;A\n0;1.5\n1;2.5\n2;3.5\n;3.1", "x||c||0 1 2 ·\ny||A||1.5 2.5 3.5 3.1")
case("a note below", "t;h\n0;1\n1;2\n2;4\n* taken twice", "x||t||0 1 2\ny||h||1 2 4", passed=(5,))
case("a source below", "t,h\n0,1\n1,2\n2,4\n\nSource: the book of the quay", "x||t||0 1 2\ny||h||1 2 4", passed=(6,))
case("drawn lines", "t   h\n-----\n0   1\n1   2\n2   4\n=====", "x||t||0 1 2\ny||h||1 2 4", passed=(2, 6))
case(
    "a table drawn with bars",
    "| t / s | h / m |\n|-------|-------|\n| 0 | 1 |\n| 1 | 2 |\n| 2 | 4 |",
    "x||t|s|0 1 2\ny||h|m|1 2 4",
)
case(
    "a table drawn with bars and crosses",
    "+---+---+\n| t | h |\n+---+---+\n| 0 | 1 |\n| 1 | 2 |\n+---+---+",
    "x||t||0 1\ny||h||1 2",
)
case(
    "an error in a cell",
    "t;h\n0;#DIV/0!\n1;2\n2;3\n3;#N/A",
    "x||t||0 1 2 3\ny||h||#DIV/0! 2 3 #N/A",
    wrong=((1, 0), (1, 3)),
)
case("a formula in a cell", "t;h\n0;1\n1;=A2*2\n2;4", "x||t||0 1 2\ny||h||1 =A2*2 4", wrong=((1, 1),))
case("points", "(1, 2), (2, 4.1), (3, 6)", "x||||1 2 3\ny||||2 4.1 6")
case("points, one a line", "(1, 2)\n(2, 4.1)\n(3, 6)", "x||||1 2 3\ny||||2 4.1 6")
case("points with semicolons and decimal commas", "(1,5; 2) (2,5; 4,1) (3,5; 6)", "x||||1.5 2.5 3.5\ny||||2 4.1 6")
case("points with bars", "A(1|2), B(2|4.1), C(3|6)", "other||||A B C\nx||||1 2 3\ny||||2 4.1 6")
case("points in square brackets", "[[1, 2], [2, 4.1], [3, 6]]", "x||||1 2 3\ny||||2 4.1 6")
case("points in curly brackets", "{{1, 2}, {2, 4.1}, {3, 6}}", "x||||1 2 3\ny||||2 4.1 6")
case("prose", "It was a cold day, and we went to the quay.\nThe probe showed 3 degrees.", refused="reads like text")
case("one sentence", "The height of the tide was measured at noon.", refused="reads like text")
case("markup", "<table><tr><td>0</td><td>1</td></tr></table>", refused="markup")
case("a page", "<!doctype html><html><body><p>0 1</p></body></html>", refused="markup")
case("typesetting", "\\begin{tabular}{ll}\n0 & 1 \\\\\n1 & 2\n\\end{tabular}", refused="markup")
case("objects", '[{"t": 0, "h": 1}, {"t": 1, "h": 2}]', refused="JSON")
case("nothing", "  \n\n", refused="nothing to import")
case("on its side", "t / s;0;1;2;3;4\nh / m;1;2;4;7;9", "x||t|s|0 1 2 3 4\ny||h|m|1 2 4 7 9")
case("on its side, spaces", "t / s 0 1 2 3 4 5\nh / m 1 2 4 7 9 12", "x||t|s|0 1 2 3 4 5\ny||h|m|1 2 4 7 9 12")
case(
    "on its side without names",
    "0\t1\t2\t3\t4\t5\n1\t2\t4\t7\t9\t12",
    "x||||0 1 2 3 4 5\ny||||1 2 4 7 9 12",
    asks="turned",
)

# --- dates and times --------------------------------------------------------------------------------------------------

case("weekly dates", "date;h\n2026-05-04;1\n2026-05-11;2\n2026-05-18;4", "x|date||d|0 7 14\ny||h||1 2 4")
case("daily dates with points", "date;h\n04.05.2026;1\n05.05.2026;2\n06.05.2026;4", "x|date||d|0 1 2\ny||h||1 2 4")
case(
    "dates by strokes, the day decides", "date;h\n13/5/2026;1\n14/5/2026;2\n15/5/2026;4", "x|date||d|0 1 2\ny||h||1 2 4"
)
case("dates by strokes", "date;h\n3/5/2026;1\n4/5/2026;2\n5/5/2026;4", "x|date||d|0 1 2\ny||h||1 2 4", asks="day_first")
case(
    "dates by strokes, month first",
    "date;h\n3/5/2026;1\n4/5/2026;2\n5/5/2026;4",
    "x|date||d|0 31 61\ny||h||1 2 4",
    asks="day_first",
    pick=1,
)
case("dates with months in words", "date;h\n4 May 2026;1\n5 May 2026;2\n7 May 2026;4", "x|date||d|0 1 3\ny||h||1 2 4")
case("dates with short months", "date;h\n30-Apr-26;1\n01-May-26;2\n02-May-26;4", "x|date||d|0 1 2\ny||h||1 2 4")
case(
    "moments every ten minutes",
    "time;h\n2026-05-04 08:00;1\n2026-05-04 08:10;2\n2026-05-04 08:20;4",
    "x|time||min|0 10 20\ny||h||1 2 4",
)
case(
    "moments every half second",
    "time;h\n2026-05-04T08:00:00.0;1\n2026-05-04T08:00:00.5;2\n2026-05-04T08:00:01.0;4",
    "x|time||s|0 0.5 1\ny||h||1 2 4",
)
case("a stopwatch", "time;h\n0:30;1\n1:00;2\n1:30;4", "x|time||min:s|0:30 1:00 1:30\ny||h||1 2 4", asks="clock", pick=1)
case(
    "a stopwatch with tenths", "time;h\n0:30.5;1\n1:00.0;2\n1:30.2;4", "x|time||min:s|0:30.5 1:00.0 1:30.2\ny||h||1 2 4"
)
case("a stopwatch beyond the hour", "time;h\n30:00;1\n60:00;2\n90:00;4", "x|time||min:s|30:00 60:00 90:00\ny||h||1 2 4")
case(
    "clock times as hours and minutes",
    "time (h:min);h\n9:30;1\n10:00;2\n10:30;4",
    "x|time||h:min|9:30 10:00 10:30\ny||h||1 2 4",
)
case("times of day", "time;h\n9:30;1\n9:45;2\n10:00;4", "x|time||min|0 15 30\ny||h||1 2 4", asks="clock")
case("times of day in two halves", "time;h\n11:30 am;1\n12:00 pm;2\n12:30 pm;4", "x|time||min|0 30 60\ny||h||1 2 4")
case("times of day past midnight", "time;h\n22:00;1\n23:00;2\n0:00;4", "x|time||h|0 1 2\ny||h||1 2 4")
case(
    "a time that is none",
    "date;h\n2026-05-04;1\nlater;2\n2026-05-06;4",
    "x|date||d|0 later 2\ny||h||1 2 4",
    wrong=((0, 1),),
)

# --- found by looking for what is still misread -----------------------------------------------------------------------

case(
    "uneven spaces under a heading",
    "Length/cm  Period/s\n10  0.63\n20  0.90\n30 1.10",
    "x|Length||cm|10 20 30\ny|Period||s|0.63 0.90 1.10",
)
case(
    "a heading of several words, wide spaces",
    "height of quay   time\n1 0\n2 1\n4 2",
    "x|height of quay|||1 2 4\ny|time|||0 1 2",
)
case("assignments", "x = 1, y = 2\nx = 2, y = 4\nx = 3, y = 7", "x||x||1 2 3\ny||y||2 4 7")
case(
    "trials without an x",
    "Trial 1\tTrial 2\tTrial 3\n2.1\t2.2\t2.0\n2.3\t2.2\t2.1\n2.2\t2.1\t2.2",
    "y|Trial 1|||2.1 2.3 2.2\ny|Trial 2|||2.2 2.2 2.1\ny|Trial 3|||2.0 2.1 2.2",
    asks="alone",
)
case("units alone as headings", "[s]\t[m]\n0\t1\n1\t2", "x|||s|0 1\ny|||m|1 2")
case("a list with full stops", "1. 0.5 2\n2. 0.7 3\n3. 0.9 5", "other||||1. 2. 3.\nx||||0.5 0.7 0.9\ny||||2 3 5")
case("on its side, three readings", "t,1,2,3\nh,4,5,7", "x||t||1 2 3\ny||h||4 5 7", asks="turned")
case(
    "labels before many columns",
    "quay;1;2;3;4\nbuoy;2;3;4;6",
    "other||||quay buoy\nx||||1 2\ny||||2 3\nother||||3 4\nother||||4 6",
    asks="turned",
    pick=1,
)
case(
    "uncertainty as a function",
    "t / s;d / mm;u(d) / mm\n0;1;0.1\n1;2;0.1\n2;4;0.1",
    "x||t|s|0 1 2\ny||d|mm|1 2 4\ny_error|u(d)||mm|0.1 0.1 0.1",
)
case(
    "blank and unknown samples",
    "c (mg/L)\tA\nblank\t0.002\n1\t0.105\n2\t0.210\n3\t0.310\nunknown\t0.157",
    "x||c|mg/L|blank 1 2 3 unknown\ny||A||0.002 0.105 0.210 0.310 0.157",
    wrong=((0, 0), (0, 4)),
)
case(
    "a working table",
    "x\ty\tx²\txy\n1\t2\t1\t2\n2\t4\t4\t8\n3\t5\t9\t15",
    "x||x||1 2 3\ny||y||2 4 5\nother|x²|||1 4 9\nother|xy|||2 8 15",
    asks="several",
    pick=1,
)
case("lists as a program writes them", "x=[1,2,3,4]\ny=[2,4,6,9]", "x||x||1 2 3 4\ny||y||2 4 6 9")
case(
    "a quantity called I is no numbering",
    "λ/nm\tI\tδI\n400\t1\t0.1\n500\t2\t0.1\n600\t3\t0.2",
    "x||λ|nm|400 500 600\ny||I||1 2 3\ny_error||δI||0.1 0.1 0.2",
)
case("an id that counts on", "id,t,h\n17,0,1\n18,1,2\n19,2,4", "other|id|||17 18 19\nx||t||0 1 2\ny||h||1 2 4")
case("a column named x alone", "x\n1\n2\n3", "y||x||1 2 3", asks="alone")
case("rows of a typesetter", "x & y \\\\\n1 & 2 \\\\\n2 & 4 \\\\", refused="markup")
case("thousands by points alone", "1.234.567;2\n2.345.678;3", "x||||1234567 2345678\ny||||2 3")
case("units of the heading alone", "°C\t%\n20\t5\n30\t7", "x|||°C|20 30\ny|||%|5 7")
case(
    "a heading shorter than the rows",
    "a\tb\n1\t2\t3\n4\t5\t6",
    "x||a||1 4\ny||b||2 5\nother||||3 6",
    asks="several",
    pick=1,
)
case("runs below one another", "Run 1\n0 1\n1 2\n2 4\nRun 2\n0 2\n1 3", "x||||0 1 2\ny||||1 2 4", passed=(1, 6))
case(
    "runs below one another with their headings",
    "Run 1\nt;h\n0;1\n1;2\n2;4\nRun 2\nt;h\n0;2\n1;3",
    "x||t||0 1 2\ny||h||1 2 4",
    passed=(1, 6, 7),
)
case(
    "a table of a database",
    "  x |  y \n----+----\n  1 |  2 \n  2 |  4 \n(2 rows)",
    "x||x||1 2\ny||y||2 4",
    passed=(2, 5),
)
case("months", "Jan 2026;12\nFeb 2026;13\nMar 2026;15", "x|||d|0 31 59\ny||||12 13 15")
case(
    "both uncertainties by a sign",
    "mass/kg;±;length/m;±\n1;0.1;2;0.1\n2;0.1;3;0.1\n3;0.1;5;0.2",
    "x|mass||kg|1 2 3\nx_error|±|||0.1 0.1 0.1\ny|length||m|2 3 5\ny_error|±|||0.1 0.1 0.2",
)
case(
    "a column of units",
    "Time,Value,Unit\n0,1.5,V\n1,1.7,V\n2,1.8,V",
    "x|Time|||0 1 2\ny|Value||V|1.5 1.7 1.8\nskip|Unit|||V V V",
)
case(
    "value (uncertainty)",
    "x\ty (error)\n1\t2.0 (0.1)\n2\t4.1 (0.1)\n3\t6.2 (0.2)",
    "x||x||1 2 3\ny|y (error)|||2.0 4.1 6.2\ny_error||||0.1 0.1 0.2",
)
case(
    "an uncertainty in the heading",
    "length ± 0.1 cm\ttime ± 0.02 s\n10\t0.63\n20\t0.90",
    "x|length ± 0.1||cm|10 20\ny|time ± 0.02||s|0.63 0.90",
)
case("days and months or fractions", "12/5\t3\n13/5\t4\n14/5\t6", "x||||2.4 2.6 2.8\ny||||3 4 6", asks="fractions")
case(
    "pairs under a heading each",
    "Group A\t\tGroup B\t\nx\ty\tx\ty\n1\t2\t1\t3\n2\t4\t2\t6",
    "x||x||1 2\ny|Group A|y||2 4\nx||x||1 2\ny|Group B|y||3 6",
)
case("symbols as typesetters write them", "$t_{1}$,$h$\n1,2\n2,3", "x||t_1||1 2\ny||h||2 3")
case(
    "an index k",
    "k\tx_k\ty_k\n1\t0.0\t1.0\n2\t0.5\t1.6\n3\t1.0\t2.7",
    "other||k||1 2 3\nx||x_k||0.0 0.5 1.0\ny||y_k||1.0 1.6 2.7",
)
case("an error in the first cell", "#N/A;1\n2;3\n4;5", "x||||#N/A 2 4\ny||||1 3 5", wrong=((0, 0),))
case("one line of numbers", "0,1,4,9,16,25", "y||||0 1 4 9 16 25", asks="turned")
case(
    "named values",
    "Reading 1: 2,5\nReading 2: 2,7\nReading 3: 2,6",
    "other||||Reading_1 Reading_2 Reading_3\ny||||2.5 2.7 2.6",
    asks="alone",
)
case("a unit that is none of time over times", "load (N);h\n2026-05-04;1\n2026-05-05;2", "x|load (N)||d|0 1\ny||h||1 2")
