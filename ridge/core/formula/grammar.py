"""The grammar of formulas, for lark's LALR parser."""

from __future__ import annotations

from ridge.core.formula.functions import ALIASES, FUNCTIONS

LETTER = "A-Za-z\u0391-\u03a9\u03b1-\u03c9\u03d1\u03d5"
SUBSCRIPTS = "\u2080-\u2089"
_MORE = rf"[{LETTER}0-9{SUBSCRIPTS}]*"
NAME = rf"[{LETTER}]{_MORE}(?:_[{LETTER}0-9]{_MORE})*"
"""One way only to read a text as a name: a pattern with several takes time without end."""
RAISED = "\u2070\u00b9\u00b2\u00b3\u2074-\u2079\u207b"

CURVES = "\ue000-\ue019"
"""Stand for the letters of curves that are called as functions; nobody types them."""
_FUNCTION = "|".join(sorted(map(str, (*FUNCTIONS, *ALIASES)), key=len, reverse=True))

GRAMMAR = rf"""
?start: sum

?sum: product
    | sum PLUS product
    | sum MINUS product

?product: signed
    | product TIMES signed
    | product OVER signed
    | product raised        -> implicit

?signed: MINUS signed       -> minus
    | PLUS signed           -> plus
    | factor

?factor: atom
    | NUMBER
    | atom _HAT signed      -> hat
    | NUMBER _HAT signed    -> hat
    | atom RAISED           -> superscript
    | NUMBER RAISED         -> superscript

?raised: atom
    | atom _HAT signed      -> hat
    | atom RAISED           -> superscript

?atom: NAME
    | "(" sum ")"           -> bracket
    | FUNCTION "(" arguments ")"                -> call
    | FUNCTION _HAT NUMBER "(" arguments ")"    -> call_to_power
    | FUNCTION RAISED "(" arguments ")"         -> call_to_power
    | IF "(" comparison "," sum "," sum ")"     -> choice

arguments: sum ("," sum)*
comparison: sum COMPARE sum

PLUS: "+"
MINUS: "-"
TIMES: "*"
OVER: "/"
_HAT: "^" | "**"
COMPARE: "<=" | ">=" | "==" | "!=" | "<" | ">" | "="
RAISED: /[{RAISED}]+/
NUMBER: /(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][+-]?[0-9]+)?/
IF.3: /if(?![{LETTER}0-9_{SUBSCRIPTS}])/
FUNCTION.2: /(?:{_FUNCTION})(?![{LETTER}0-9_{SUBSCRIPTS}])|[{CURVES}]/
NAME: /{NAME}/

%ignore /[ \t\n\r\u00a0\u2009\u202f]+/
"""
