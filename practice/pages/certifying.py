"""PDFs that leave the practice are signed with its certificate (PAdES, ETSI EN 319 142-1, baseline B-B): whoever gets one can see
that nothing was changed since. Libraries are loaded by what uses them: pages need none."""

import io

from practice.firm import certificates


def joined(parts, title):
    """One PDF of many, unsigned; a signature of a part would be broken in the whole and is left out. Gives the writer."""
    from pypdf import PdfReader, PdfWriter

    writer = PdfWriter()
    for part in parts:
        writer.append(PdfReader(io.BytesIO(part)))
    for page in writer.pages:
        _without_signatures(page)
    if "/AcroForm" in writer.root_object:
        del writer.root_object["/AcroForm"]
    writer.add_metadata({"/Title": title, "/Producer": "Impuesto"})
    return writer


def _without_signatures(page):
    from pypdf.generic import ArrayObject

    there = page.get("/Annots")
    if there is None:
        return
    kept = [one for one in there.get_object() if one.get_object().get("/FT") != "/Sig"]
    if len(kept) < len(there.get_object()):
        page.annotations = ArrayObject(kept)


def written(writer):
    """The bytes of a writer's PDF."""
    made = io.BytesIO()
    writer.write(made)
    return made.getvalue()


def certified(firm, content, reason, password=""):
    """The PDF signed by the practice so that no change is allowed any more. `password`: what `content` is encrypted with."""
    from asn1crypto import keys, x509
    from cryptography.hazmat.primitives.serialization import Encoding, NoEncryption, PrivateFormat
    from pyhanko.pdf_utils.incremental_writer import IncrementalPdfFileWriter
    from pyhanko.sign import fields, signers
    from pyhanko_certvalidator.registry import SimpleCertificateStore

    key, certificate, others = certificates.opened(certificates.in_force(firm.pk))
    above = SimpleCertificateStore()
    above.register_multiple(x509.Certificate.load(one.public_bytes(Encoding.DER)) for one in others)
    signer = signers.SimpleSigner(
        x509.Certificate.load(certificate.public_bytes(Encoding.DER)),
        keys.PrivateKeyInfo.load(key.private_bytes(Encoding.DER, PrivateFormat.PKCS8, NoEncryption())),
        above,
    )
    about = signers.PdfSignatureMetadata(
        field_name="Practice", md_algorithm="sha256", subfilter=fields.SigSeedSubFilter.PADES, name=firm.name, reason=reason,
        certify=True, docmdp_permissions=fields.MDPPerm.NO_CHANGES,
    )  # fmt: skip
    writer = IncrementalPdfFileWriter(io.BytesIO(content))
    if password:
        writer.encrypt(password)
    return signers.sign_pdf(writer, about, signer=signer).getvalue()
