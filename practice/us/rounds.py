"""Extensions for many returns at once."""

from practice.returns.acts import Done, act
from practice.us import extending


@act("ask", "Request extensions", "extend")
def ask(actor, return_id):
    asked = extending.ask(actor, return_id)
    extending.make_ready(actor, return_id)
    return Done(f"requested from {', '.join(code.upper() for code in asked)}, ready" if asked else "was requested already")


@act("send", "Send what is ready", "file")
def send(actor, return_id):
    sent = extending.send_ready(actor, return_id)
    return Done(f"{len(sent)} on their way" if sent else "nothing had to be sent; the extended due dates apply")
