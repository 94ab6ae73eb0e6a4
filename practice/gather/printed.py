"""What a client answered and signed, as PDFs that the practice signs."""

from practice.gather import surveying
from practice.pages.certifying import certified
from practice.pages.pdf import pdf_of


def questionnaire_pdf(return_, item):
    """Every question with last year's and this year's answer, in the client's words."""
    context = {"rows": surveying.questions(return_, item), "item": item, "of": return_, "firm": return_.firm}
    return certified(return_.firm, pdf_of("gather/questionnaire_pdf.html", context), "Questionnaire")


def letter_pdf(letter):
    """A letter as it was sent, with what became of it."""
    made = pdf_of("gather/letter_pdf.html", {"letter": letter, "firm": letter.of.firm})
    return certified(letter.of.firm, made, letter.text.get_kind_display())
