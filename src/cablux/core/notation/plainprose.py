"""Prose made plainer before it is read, each letter in its place: numbers in words, sizes in brackets, odd spaces."""

from __future__ import annotations

import re

_CARDINALS = (
    *("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"),
    *("thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen", "twenty"),
)
_ORDINALS = (
    *("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"),
    *("eleventh", "twelfth"),
)
_ENDINGS = {1: "st", 2: "nd", 3: "rd"}
_DIGITS = {word: str(n) for n, word in enumerate(_CARDINALS, start=1)} | {
    word: f"{n}{_ENDINGS.get(n, 'th')}" for n, word in enumerate(_ORDINALS, start=1)
}
_WORD = re.compile(rf"\b(?:{'|'.join(sorted(_DIGITS, key=len, reverse=True))})\b", re.I)
_ODD = {ord(c): " " for c in "\u00a0\u2007\u2009\u202f\t\f\v"} | {ord("\u2019"): "'", ord("\u2018"): "'"}
_ODD |= {ord(c): "-" for c in "\u2010\u2011\u2212"} | {ord("\u00d7"): "x", ord("\u2217"): "*", ord("\u2731"): "*"}
_SIZES = re.compile(r"(?<![\w/])([a-z]{0,2})(\d{1,4})(\s*[(\[]\s*(\d{1,4}(?:\s*[,;:/-]\s*\d{1,4})*)\s*[)\]])", re.I)


def plain_prose(text: str) -> str:
    """The text, as long as it was, with numbers in figures and spaces, dashes and asterisks as we write them."""
    return _WORD.sub(lambda m: _DIGITS[m[0].lower()].ljust(len(m[0])), text.translate(_ODD))


def sizes_in_text(text: str) -> int:
    """In how many sizes the text is written, as in “cast on 92 (100, 108)”: 1 where there is but one."""
    return max((1 + len(re.findall(r"\d+", m[4])) for m in _SIZES.finditer(text)), default=1)


def in_size(text: str, which: int) -> str:
    """The text in one of its sizes, counted from 1, as long as it was; numbers that have fewer sizes stay the first."""

    def chosen(m: re.Match[str]) -> str:
        numbers: list[str] = [m[2], *re.findall(r"\d+", m[4])]
        return str(m[1] + numbers[which - 1 if which <= len(numbers) else 0]).ljust(len(m[0]))

    return _SIZES.sub(chosen, text)
