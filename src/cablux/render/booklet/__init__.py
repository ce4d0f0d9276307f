"""The booklet in every form: plain text, Markdown, one HTML file, PDF."""

from .page import write_html
from .paper import Sheet, write_pages, write_pdf
from .plain import write_markdown, write_text

__all__ = ["Sheet", "write_html", "write_markdown", "write_pages", "write_pdf", "write_text"]
