"""What falls over comes back, and nothing that was acknowledged is lost or filed twice."""

import os
import re
import signal
import threading
import time

import httpx
from selenium.webdriver.common.keys import Keys

from ops.tests.running import RunningTestCase
from practice.intake.tests.pages import text_pdf


class Key:
    """A preparer without a browser: signs in over HTTP and saves fields."""

    def __init__(self, practice, who="bea"):
        self.practice = practice
        self.http = httpx.Client(base_url=practice.url, timeout=20, follow_redirects=True)
        page = self.http.get("/sign-in").text
        form = {"username": f"{who}@larkspurrow.example", "password": practice.password, "csrfmiddlewaretoken": self.token(page)}
        self.http.post("/sign-in", data=form).raise_for_status()

    def token(self, page=""):
        found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
        return found[1] if found else self.http.cookies["csrftoken"]

    def save(self, return_id, paper_id, path, value, was):
        headers = {"X-CSRFToken": self.token(), "HX-Request": "true"}
        url = f"/returns/{return_id}/papers/{paper_id}/field"
        return self.http.post(url, data={"path": path, "value": value, "was": was}, headers=headers)


class KillTests(RunningTestCase):
    def paper(self, household):
        found = self.practice.sql(
            "select r.id || ' ' || p.id from returns_return r join clients_household h on h.id = r.household_id "
            f"join returns_paper p on p.of_id = r.id where h.name like '{household}%' and p.kind = 'w2' order by p.id limit 1"
        )
        return tuple(map(int, found.split()))

    def wait(self, found, seconds=60):
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            try:
                if value := found():
                    return value
            except Exception:
                pass
            time.sleep(0.2)
        raise AssertionError(f"still not so after {seconds} s")

    def up(self):
        return httpx.get(self.practice.url + "/healthy", timeout=2).status_code == 200

    def test_web_killed_in_the_middle_of_saves_loses_nothing_acknowledged(self):
        return_id, paper_id = self.paper("Vantongeren")
        acknowledged, stop = ["41260.00"], threading.Event()
        person = Key(self.practice)  # signed in before anything is killed

        def keep_saving():
            amount = 50_000
            while not stop.is_set():
                amount += 1
                try:
                    answer = person.save(return_id, paper_id, "wages", str(amount), acknowledged[-1])
                except httpx.HTTPError:
                    self.wait(self.up)
                    stored = self.stored(paper_id)
                    self.assertIn(stored, (acknowledged[-1], f"{amount}.00"))
                    acknowledged.append(stored)
                    continue
                self.assertEqual(answer.status_code, 200, answer.text[:300])
                acknowledged.append(f"{amount}.00")

        saver = threading.Thread(target=keep_saving)
        saver.start()
        for times in (1, 2, 3):
            self.wait(lambda times=times: len(acknowledged) > 5 * times, 60)
            self.practice.kill("web")
            self.wait(self.up)
        self.wait(lambda: len(acknowledged) > 20, 60)
        stop.set()
        saver.join(60)
        self.assertEqual(self.stored(paper_id), acknowledged[-1])
        history = self.practice.sql(f"select after from returns_fieldchange where paper_id={paper_id} and path='wages'").split()
        self.assertLessEqual(set(acknowledged[1:]), set(history))

    def test_uploads_outlive_web_worker_and_scanner(self):
        """What was acknowledged is kept once and read in the end; what was not is sent again, as a browser's user would."""
        return_id, paper_id = self.paper("Tolliver")
        person = Key(self.practice)
        url = f"/returns/{return_id}/papers/{paper_id}/attach"
        for number in range(12):
            if number in (3, 6, 9):
                name = {3: "web", 6: "worker", 9: "stand-ins"}[number]
                threading.Timer(0.02, self.practice.kill, [name]).start()  # in the middle of the next upload
            self.wait(lambda number=number: self.sent(person, url, number), 90)
        names = f"select count(*), count(distinct digest) from intake_attachment where of_id={return_id} and name like 'kill%'"
        self.assertEqual(self.practice.sql(names), "12|12")
        ready = f"select count(*) from intake_attachment where of_id={return_id} and name like 'kill%' and state='ready'"
        self.wait(lambda: self.practice.sql(ready) == "12", 120)

    def sent(self, person, url, number):
        """Whether an upload was acknowledged."""
        content = b"%PDF-1.4\n" + text_pdf(f"Page {number} of a heap")[9:]
        answer = person.http.post(
            url, data={"csrfmiddlewaretoken": person.token()}, files={"file": (f"kill{number}.pdf", content)}
        )
        return answer.status_code == 200

    def stored(self, paper_id):
        return self.practice.sql(f"select values->>'wages' from returns_paper where id={paper_id}")

    def test_worker_killed_and_answers_lost_while_sending_files_once(self):
        self.wait(lambda: self.practice.sql("select count(*) from dispatch_submission where state in ('queued', 'sent')") == "0")
        before = int(self.practice.sql("select count(*) from authority_filing", "authority"))
        self.practice.mood(answers_to_lose=2, slow_ms=700)
        return_id = self.file_again("Fennimore")
        for _ in range(3):
            time.sleep(0.8)
            self.practice.kill("worker")
        self.practice.mood()
        states = "select string_agg(state, ',' order by id) from dispatch_submission where of_id=%d and snapshot_id=(select snapshot_id from returns_return where id=%d)"
        self.wait(lambda: self.practice.sql(states % (return_id, return_id)) == "accepted,accepted", 150)
        received = int(self.practice.sql("select count(*) from authority_filing", "authority")) - before
        self.assertEqual(received, 2)
        self.assertEqual(self.practice.sql(f"select count(*) from firm_event where of_id={return_id} and what='accepted'"), "2")
        self.assertGreater(int(self.practice.sql("select max(times_received) from authority_filing", "authority")), 1)

    def file_again(self, household):
        """Fix a rejected return and send it again, over HTTP as the screens would."""
        return_id, _ = self.paper(household)
        person = int(self.practice.sql(f"select id from returns_paper where of_id={return_id} and kind='person'"))
        self.practice.sql("insert into authority_person (number, last_name) values ('945080002', 'Fennimore')", "authority")
        signer = Key(self.practice, "sunniva")
        page = signer.http.get(f"/returns/{return_id}/papers/{person}").text
        was = re.search(r'name="path" value="number"><input type="hidden" name="was" value="([^"]*)"', page)[1]
        self.assertEqual(signer.save(return_id, person, "number", "945080002", was).status_code, 200)
        signer.http.post(f"/returns/{return_id}/sign/lock", data={"csrfmiddlewaretoken": signer.token()}).raise_for_status()
        client = self.practice.sql(f"select person_id from returns_paper where id={person}")
        self.sign_and_file(signer, return_id, client, "Hollis Fennimore")
        return return_id

    def sign_and_file(self, signer, return_id, client, name):
        from practice.demo.building import drawn_name

        token = {"csrfmiddlewaretoken": signer.token()}
        seen = {"document": "passport", "ending": "771", "issued_by": "United States", "expires": "2031-01-31"}
        signer.http.post(f"/households/people/{client}/identity", data=token | seen).raise_for_status()
        for authority in ("us", "us-il"):
            url = f"/returns/{return_id}/sign/office/{client}/{authority}"
            signer.http.post(url, data=token | {"image": drawn_name(name), "pin": "41706"}).raise_for_status()
        signer.http.post(f"/returns/{return_id}/file", data=token).raise_for_status()

    def test_an_authority_that_is_down_is_shown_and_waited_for(self):
        self.practice.mood(is_down="on")
        self.addCleanup(self.practice.mood)
        return_id, _ = self.paper("Pilcrow")
        signer = Key(self.practice, "sunniva")
        dov = self.practice.sql(f"select person_id from returns_paper where of_id={return_id} and key='spouse'")
        self.sign_and_file(signer, return_id, dov, "Dov Pilcrow")
        self.wait(lambda: "it answered 503" in signer.http.get("/dispatch").text)
        self.assertIn("next try", signer.http.get("/dispatch").text)
        submission = self.practice.sql(f"select id from dispatch_submission where of_id={return_id} and authority='us'")
        self.practice.mood()
        signer.http.post(f"/dispatch/{submission}/now", data={"csrfmiddlewaretoken": signer.token()}).raise_for_status()
        self.wait(lambda: self.practice.sql(f"select state from dispatch_submission where id={submission}") == "accepted", 90)

    def test_postgresql_restarted_under_the_running_practice(self):
        from ops.installation import Installation

        return_id, paper_id = self.paper("Abernathy")
        person = Key(self.practice)
        self.assertEqual(person.save(return_id, paper_id, "control_number", "1", "").status_code, 200)
        mark = Installation(self.practice.data).cluster.data / "postmaster.pid"
        was = mark.read_text().split()[0]
        os.kill(int(was), signal.SIGINT)  # pg_ctl would go on waiting where the supervisor is quicker to start it again
        self.wait(lambda: mark.exists() and mark.read_text().split()[:1] not in ([], [was]), 60)
        self.wait(self.up, 60)
        answer = self.wait(lambda: (a := person.save(return_id, paper_id, "control_number", "2", "1")).status_code == 200 and a)
        self.assertIn("Control number", answer.text)
        self.assertEqual(self.practice.sql(f"select values->>'control_number' from returns_paper where id={paper_id}"), "2")

    def test_a_save_that_meets_a_dead_server_stays_on_screen_and_is_sent_when_it_is_back(self):
        return_id, paper_id = self.paper("Quist")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/papers/{paper_id}")
        field = walk.field("Allocated tips")
        field.click()
        self.practice.kill("web")
        field.send_keys("12", "\t")
        walk.sees("The server is not responding", seconds=15)
        walk.find(".f.unsaved")
        walk.until(lambda: not walk.driver.find_elements("css selector", ".unsaved"), 90)
        walk.until(lambda: "The server is not responding" not in walk.text(), 10)
        self.assertEqual(self.practice.sql(f"select values->>'allocated_tips' from returns_paper where id={paper_id}"), "12.00")

    def test_a_value_of_a_plan_that_meets_a_dead_server_is_sent_when_it_is_back(self):
        return_id, _ = self.paper("Quist")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/what-if")
        field = walk.find("#plans td.own input")
        field.click()
        self.practice.kill("web")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("13500", "\t")
        walk.sees("The server is not responding", seconds=15)
        walk.until(lambda: "The server is not responding" not in walk.text(), 90)
        kept = f"select count(*) from whatif_plancolumn where of_id = {return_id} and differences::text like '%\"13500.00\"%'"
        walk.until(lambda: self.practice.sql(kept) == "1", 20)
        self.assertEqual(walk.find("#plans td.own input").get_attribute("value"), "13,500")
